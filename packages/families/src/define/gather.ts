import type { Finding } from '@firm-needle/core/procedure';

/** A list of findings under construction. */
export interface Gathering {
  readonly out: Finding[];
  add(severity: Finding['severity'], code: string, message: string, remedy?: string, about?: string): void;
  /** The same, of one setting or plate parameter. */
  judge(severity: Finding['severity'], code: string, about: string, message: string, remedy?: string): void;
  /** Something that must be true before a plan or a signature, and is not. */
  lacks(code: string, about: string, message: string, remedy: string): void;
}

/** What a list of findings comes to. */
export function gathered(gather: (found: Gathering) => void): readonly Finding[] {
  const found = gathering();
  gather(found);
  return found.out;
}

/** Begins a list of findings. */
export function gathering(): Gathering {
  const out: Finding[] = [];
  const add: Gathering['add'] = (severity, code, message, remedy, about) => {
    out.push({ severity, code, message, ...(remedy ? { remedy } : {}), ...(about ? { about } : {}) });
  };
  return {
    out,
    add,
    judge: (severity, code, about, message, remedy) => add(severity, code, message, remedy, about),
    lacks: (code, about, message, remedy) => add('refuse', code, message, remedy, about),
  };
}
