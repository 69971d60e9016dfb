import classes from './Shelf.module.css';

/** Two colours side by side without a line between them, on neutral grey. */
export function Split({ hex, beside, name }: { hex: string; beside: string; name?: string }) {
  return (
    <svg
      className={classes.split}
      viewBox="0 0 100 40"
      preserveAspectRatio="none"
      role="img"
      aria-label={name ?? `${hex} beside ${beside}`}
    >
      <rect width="50.5" height="40" fill={hex} />
      <rect x="50" width="50" height="40" fill={beside} />
    </svg>
  );
}
