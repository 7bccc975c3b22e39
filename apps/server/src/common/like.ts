/** A pattern for LIKE that finds a text anywhere: what `%` and `_` mean to the database is not what a person means by them. */
export const anywhere = (text: string): string => `%${text.replace(/[\\%_]/g, '\\$&')}%`;
