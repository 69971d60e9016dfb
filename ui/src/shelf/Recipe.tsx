import type { RecipeLine } from '../api/client';
import classes from './Shelf.module.css';
import { Split } from './Split';

/** A recipe large: what to count into the cup, and what it becomes. */
export function Recipe({ line, target }: { line: RecipeLine; target: string }) {
  return (
    <section aria-label="Drops" className={classes.sheet}>
      <Split hex={target} beside={line.hex} name={`wanted ${target} beside ${line.hex}`} />
      <p className={classes.under}>
        <span>wanted {target}</span>
        <span>mixed {line.hex}</span>
      </p>
      <ul className={classes.counts}>
        {line.parts.map((p) => (
          <li key={p.jar}>
            <span style={{ background: p.hex }} />
            <strong>{p.drops}</strong> drops of {p.name}
            {p.short && <em> more than it holds</em>}
          </li>
        ))}
        {line.thinnerDrops > 0 && (
          <li>
            <span />
            <strong>{line.thinnerDrops}</strong> drops of thinner, for spraying
          </li>
        )}
      </ul>
      <p className={classes.mute}>
        {line.drops} drops, {line.ml.toFixed(1)} ml of paint. Stir, spray a test piece, let it dry, then compare.
      </p>
    </section>
  );
}

/** What a recipe looks like under what comes over it. */
export function Becomes({ line }: { line: RecipeLine }) {
  return (
    <ul className={classes.becomes} aria-label="What it becomes">
      {line.becomes.map((b) => (
        <li key={b.under}>
          <span style={{ background: b.hex }} />
          <small>{b.under}</small>
        </li>
      ))}
    </ul>
  );
}
