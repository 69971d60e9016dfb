import { Link } from 'react-router';
import type { Home } from '../api/client';
import { clock } from '../clock';
import classes from './HomeScreen.module.css';

/** The next session over all builds: what to do in which order, and what to gather. */
export function Tonight({ tonight: t }: { tonight: Home['tonight'] }) {
  if (t.lines.length === 0) {
    return null;
  }
  const builds = new Set(t.lines.map((l) => l.build)).size;
  return (
    <section className={classes.tonight} aria-label="Tonight">
      <h2>{t.words}</h2>
      <ol>
        {t.lines.map((l) => (
          <li key={l.build + l.task + l.from} data-set={l.setUp ? true : undefined}>
            <span>{clock(l.from, 'time')}</span>
            <svg width="14" height="14" aria-hidden="true">
              <rect
                width="14"
                height="14"
                fill={l.setUp ? 'none' : (l.hex ?? 'none')}
                stroke="var(--mute)"
                strokeDasharray={l.setUp ? '2 2' : undefined}
              />
            </svg>
            <span>
              {l.setUp ? (
                l.title
              ) : (
                <Link to={`/builds/${l.build}/bench?step=${encodeURIComponent(l.task)}`}>{l.title}</Link>
              )}{' '}
              <small>
                {l.setUp ? l.why : builds > 1 ? l.name : ''}
                {l.oneGo ? `${builds > 1 ? ', ' : ''}same colour, one go` : ''}
                {l.closes ? `, to be finished by ${clock(l.closes, 'time')}` : ''}
              </small>
            </span>
            <small>{l.sense}</small>
          </li>
        ))}
      </ol>
      <div className={classes.gather}>
        {t.jars.length > 0 && (
          <p>
            <span>Jars</span> {t.jars.join(', ')}
          </p>
        )}
        {t.tools.length > 0 && (
          <p>
            <span>Tools</span> {t.tools.join(', ')}
          </p>
        )}
        {t.prints.map((p) => (
          <p key={p.build + p.sheet}>
            <span>Print</span>{' '}
            <a href={`/api/builds/${p.build}/sheets/${p.sheet}.pdf`} target="_blank" rel="noreferrer">
              {p.words}
            </a>
          </p>
        ))}
      </div>
    </section>
  );
}
