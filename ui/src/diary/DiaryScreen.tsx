import { Link, useParams } from 'react-router';
import { type Diary, words } from '../api/client';
import { clock } from '../clock';
import classes from './DiaryScreen.module.css';
import { useDiary } from './useDiary';

type Line = Diary['days'][number]['lines'][number];

/** The record of a build: what was done, planned and real, with what was learned. */
export function DiaryScreen() {
  const id = useParams().id ?? '';
  const diary = useDiary(id);
  const d = diary.data;
  if (!d) {
    return <p className={classes.wait}>{diary.error ? words(diary.error) : 'Opening the diary …'}</p>;
  }
  const most = Math.max(1, ...d.days.flatMap((x) => x.lines.map((l) => Math.max(l.plannedMin ?? 0, l.realMin ?? 0))));
  return (
    <div className={classes.screen}>
      <header className={classes.head}>
        <Link to={`/builds/${id}`}>Back to the plate</Link>
        <span className={classes.gap} />
        <a href={`/api/builds/${id}/sheets/diary.pdf`} target="_blank" rel="noreferrer">
          Print it
        </a>
      </header>
      <main className={classes.main}>
        <h1>
          {d.name}, {d.scale}: diary
        </h1>
        <p className={classes.story}>{d.story}</p>
        <div className={classes.sum}>
          <p>
            <strong>{hours(d.realMin)}</strong> at the bench for what was planned at{' '}
            <strong>{hours(d.plannedMin)}</strong>
          </p>
          {d.coats.map((c) => (
            <p key={c}>Sides differ: {c}</p>
          ))}
          {d.learned.length > 0 && (
            <details>
              <summary>Times learned from your log</summary>
              <ul>
                {d.learned.map((l) => (
                  <li key={l.kind}>{l.words}</li>
                ))}
              </ul>
            </details>
          )}
        </div>
        {d.days.length === 0 && (
          <p>Nothing has happened yet. What you start and finish at the bench is written here.</p>
        )}
        {d.lessons.length > 0 && (
          <section aria-label="Learned" className={classes.learned}>
            <h2>Learned</h2>
            {d.lessons.map((l) => (
              <p key={l.at + l.note}>
                <strong>{l.title}:</strong> {l.note}
              </p>
            ))}
          </section>
        )}
        {[...d.days].reverse().map((day) => (
          <section key={day.date} aria-label={day.date} className={classes.day}>
            <h2>{clock(`${day.date}T00:00`, 'full').split(',')[0]}</h2>
            <ul>
              {day.lines.map((l) => (
                <li key={l.at + l.kind + l.title} data-kind={l.kind}>
                  <span className={classes.at}>{clock(l.at, 'time')}</span>
                  <div>
                    <p>
                      <strong>{l.title}</strong> {kinds[l.kind] ?? ''}
                    </p>
                    {l.words && <p>{l.words}</p>}
                    <p className={classes.small}>
                      {[
                        l.product,
                        ...(l.measured ?? []).map((m) => `${m.name} ${m.value}`),
                        l.coats ? `${l.coats.left} coats left, ${l.coats.right} right` : '',
                        ...(l.checks ?? []),
                      ]
                        .filter(Boolean)
                        .join(' · ')}
                    </p>
                    {l.photo && <img src={`/api/builds/${id}/files/${l.photo}`} alt={l.words || l.title} />}
                  </div>
                  <Bars line={l} most={most} />
                </li>
              ))}
            </ul>
          </section>
        ))}
      </main>
    </div>
  );
}

const kinds: Record<string, string> = {
  mishap: 'went wrong',
  lesson: 'lesson',
  note: 'note',
  photo: 'picture',
  skipped: 'left out',
  repeat: 'once more',
  undone: 'opened again',
};

const hours = (m: number) => `${Math.floor(m / 60)} h ${String(Math.round(m % 60)).padStart(2, '0')}`;

/** Planned above, real below, to one scale over the whole diary. */
function Bars({ line, most }: { line: Line; most: number }) {
  if (!line.plannedMin || !line.realMin) {
    return <span />;
  }
  const wide = (m: number) => (170 * m) / most;
  return (
    <svg
      width="260"
      height="30"
      role="img"
      aria-label={`planned ${line.plannedMin} min, real ${Math.round(line.realMin)} min`}
    >
      <rect x="0" y="4" width={wide(line.plannedMin)} height="8" fill="none" stroke="var(--mute)" />
      <rect x="0" y="16" width={wide(line.realMin)} height="8" fill="var(--ink)" />
      <text x={Math.max(wide(line.plannedMin), wide(line.realMin)) + 8} y="19" fontSize="13" fill="var(--ink)">
        {Math.round(line.realMin)} of {line.plannedMin} min
      </text>
    </svg>
  );
}
