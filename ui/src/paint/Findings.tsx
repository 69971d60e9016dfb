import { Button } from '@mantine/core';
import { type Finding, words } from '../api/client';
import { said } from '../room/places';
import type { RoomProps } from '../room/props';
import classes from '../room/room.module.css';

/** What would go wrong, why, and the mends that settle it with a click. */
export function Findings({ tools, data, zone, onMark }: RoomProps) {
  const { findings } = data.plan;
  const shown = zone ? findings.filter((f) => f.zones.includes(zone)) : findings;
  return (
    <section aria-label="Findings">
      {shown.length < findings.length && (
        <p className={classes.mute}>
          {findings.length - shown.length} more that do not touch {said(data.plan, zone ?? '')}
        </p>
      )}
      {shown.map((f) => (
        <article
          key={f.id}
          className={classes.finding}
          aria-label={`${severities[f.severity]}: ${f.title}`}
          data-rule={f.rule}
          onPointerEnter={() => onMark(f.zones)}
          onPointerLeave={() => onMark([])}
        >
          <h3>
            <span className={classes.severity}>
              <Sign severity={f.severity} /> {severities[f.severity]}:
            </span>{' '}
            {f.title}
          </h3>
          <p>{f.reason}</p>
          {f.where && <p className={classes.mute}>On {f.where}</p>}
          <div className={classes.mends}>
            {f.mends.map((m, i) => (
              <Button
                key={m.id}
                size="xs"
                variant={i === 0 ? 'filled' : 'outline'}
                disabled={tools.edit.isPending}
                onClick={() => tools.edit.mutate([{ op: 'mend', finding: f.id, mend: m.id }])}
              >
                {m.label}
              </Button>
            ))}
          </div>
        </article>
      ))}
      {tools.edit.isError && !tools.stale && tools.edit.variables?.some((e) => e.op === 'mend') && (
        <p role="alert" className={classes.error}>
          {words(tools.edit.error)}
        </p>
      )}
    </section>
  );
}

const severities: Record<Finding['severity'], string> = {
  stop: 'Would damage it',
  warn: 'May go wrong',
  hint: 'Better so',
};

/** Severity by shape: an octagon stops, a triangle warns, a ring hints. */
function Sign({ severity }: { severity: Finding['severity'] }) {
  return (
    <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true">
      {severity === 'stop' && <path d="M5 1h6l4 4v6l-4 4H5l-4-4V5z" fill="currentColor" />}
      {severity === 'warn' && <path d="M8 1.5 15 14.5H1z" fill="none" stroke="currentColor" strokeWidth="2" />}
      {severity === 'hint' && <circle cx="8" cy="8" r="5.5" fill="none" stroke="currentColor" strokeWidth="2" />}
    </svg>
  );
}
