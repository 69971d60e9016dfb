import { words } from './client';

/** What was refused, in words; nothing while all is well. */
export function Trouble({ error }: { error: unknown }) {
  return error ? (
    <p role="alert" className="trouble">
      {words(error)}
    </p>
  ) : null;
}
