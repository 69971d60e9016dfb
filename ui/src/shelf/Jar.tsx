import type { Jar as JarText } from '../api/client';
import classes from './Shelf.module.css';

/** Room that a jar's inside takes in its drawing, points. */
const top = 16;
const deep = 44;

/** A jar drawn with what is left in it; a click on the large one marks the level. */
export function Jar({ jar, onLevel }: { jar: JarText; onLevel?: (ml: number) => void }) {
  const full = jar.volumeMl > 0 ? Math.min(jar.leftMl / jar.volumeMl, 1) : 0;
  const height = deep * full;
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the level is typed beside it as well
    <svg
      className={classes.jar}
      viewBox="0 0 48 64"
      role="img"
      aria-label={`${jar.leftMl.toFixed(1)} of ${jar.volumeMl} ml`}
      onClick={(e) => {
        const box = e.currentTarget.getBoundingClientRect();
        const y = ((e.clientY - box.top) / box.height) * 64;
        onLevel?.(jar.volumeMl * Math.min(Math.max((top + deep - y) / deep, 0), 1));
      }}
      style={onLevel ? { cursor: 'ns-resize' } : undefined}
    >
      <rect x="6" y={top} width="36" height={deep} fill="var(--raised)" />
      <rect x="6" y={top + deep - height} width="36" height={height} fill={jar.hex || 'var(--plastic)'} />
      {!jar.hex && height > 0 && <path d={`M8 ${top + deep - 2}L40 ${top + deep - height + 2}`} stroke="var(--mute)" />}
      <path d={`M6 ${top}v${deep}h36v-${deep}`} fill="none" stroke="var(--ink)" />
      <rect x="10" y="4" width="28" height="10" fill={jar.hex || 'var(--plastic)'} stroke="var(--ink)" />
    </svg>
  );
}
