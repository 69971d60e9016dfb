import type { FormWork } from './useFormWork';

/** What is counted or turned, not measured: read as a plain number. */
const plain = [
  'turn',
  'count',
  'elevation',
  'sections',
  'teeth',
  'supplied',
  'minutes',
  'up',
  'down',
  'pinMm',
  'bandMm',
];

/** Reads a field of a part as it was typed: a length in any unit, or a plain number. */
export async function read(work: FormWork, field: string, text: string): Promise<number> {
  if (!plain.includes(field)) {
    return work.place(text || '0');
  }
  const n = Number(text.replace(',', '.'));
  if (Number.isNaN(n)) {
    const words = `“${text}” is not a number. Type figures only, such as 12 or 0.5.`;
    work.tell(words);
    throw new Error(words);
  }
  return n;
}

/** A cell keeps what was typed when it was refused. */
export const orRefuse = (ok: boolean) => (ok ? undefined : Promise.reject());
