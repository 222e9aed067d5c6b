import type { Code } from '../report/diagnostic.js';

/** Warnings that are meant to be so: their code, and why they are allowed. */
export type Allow = Partial<Record<Code, string>>;
