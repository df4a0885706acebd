import { randomInt } from 'node:crypto';

/** Letters and digits that are not taken for one another. */
const LETTERS = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
const LENGTH = 10;

/** A code that is read out and typed once: some fifty bits by chance. */
export const readableCode = (): string => Array.from({ length: LENGTH }, () => LETTERS[randomInt(LETTERS.length)]).join('');
/** The same code however it was typed. */
export const plainCode = (typed: string): string => typed.toUpperCase().replace(/[\s-]/g, '');
