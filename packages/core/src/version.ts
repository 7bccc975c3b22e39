/** Version of the computation; stands in every signed result. */
export const CORE_VERSION = '0.1.0';
