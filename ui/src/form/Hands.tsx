import type { BuildState } from '../api/client';
import classes from './Form.module.css';

/** Left and right side as they must go together: which way the arms trail and the links
 * run. Held against the model at the moment of fitting. */
export function Hands({ data }: { data: BuildState }) {
  const { build, plan } = data;
  const wheels = build.wheels;
  if (wheels.length === 0) {
    return null;
  }
  const low = Math.min(...wheels.map((w) => w.x - w.radius)) - 150;
  const high = Math.max(...wheels.map((w) => w.x + w.radius)) + 150;
  const top = Math.max(...wheels.map((w) => w.z + w.radius)) + 420;
  const line = plan.gear?.line ?? [];
  const side = (name: 'left' | 'right') => {
    // The left side is seen with the front at the left.
    const x = (v: number) => (name === 'left' ? high - v : v - low);
    const z = (v: number) => top - v;
    let run = '';
    for (let i = 0; i + 1 < line.length; i += 2) {
      run += `${i ? 'L' : 'M'}${x(line[i] ?? 0)} ${z(line[i + 1] ?? 0)}`;
    }
    const front = name === 'left' ? -1 : 1;
    const middle = (high - low) / 2;
    return (
      <svg viewBox={`0 0 ${high - low} ${top}`} role="img" aria-label={`${name} side: the front is at the ${name}`}>
        {run && <path d={`${run}Z`} fill="none" stroke="var(--metal)" strokeWidth="46" />}
        {wheels.map((w, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a wheel is its place in the list
          <g key={i}>
            <circle cx={x(w.x)} cy={z(w.z)} r={w.radius} fill="none" stroke="currentColor" strokeWidth="14" />
            {w.arm && (
              <>
                <path
                  d={`M${x(w.x + w.arm.x)} ${z(w.z + w.arm.z)}L${x(w.x)} ${z(w.z)}`}
                  stroke="var(--ember)"
                  strokeWidth="60"
                  strokeLinecap="round"
                />
                <circle
                  cx={x(w.x + w.arm.x)}
                  cy={z(w.z + w.arm.z)}
                  r="46"
                  fill="var(--ground)"
                  stroke="var(--ember)"
                  strokeWidth="16"
                />
              </>
            )}
          </g>
        ))}
        {run && (
          <path
            d={[
              `M${middle - front * 500} 330H${middle + front * 500}`,
              `l${-front * 150} -90m${front * 150} 90l${-front * 150} 90`,
            ].join('')}
            fill="none"
            stroke="currentColor"
            strokeWidth="34"
          />
        )}
        <text x={middle} y="220" fontSize="200" textAnchor="middle">
          {name} side, front at the {name}
        </text>
      </svg>
    );
  };
  return (
    <figure className={classes.hands} aria-label="Left and right">
      {side('left')}
      {side('right')}
      <figcaption className={classes.mute}>
        Hold each side against its drawing before anything is glued: arms trail from their pivots (ring) as shown, and
        the links of the upper run move the way of the arrow.
      </figcaption>
    </figure>
  );
}
