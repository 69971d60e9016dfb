import type { EveningLine, Evenings } from '../api/client';
import { clock } from '../clock';
import classes from './Order.module.css';

const hour = 3_600_000;
const day = 24 * hour;

/** Minutes of an instant since the midnight it is written at. */
const minute = (iso: string) => Number(iso.slice(11, 13)) * 60 + Number(iso.slice(14, 16));

/** What is done on a day, on two short lines. */
function named(today: Evenings['sessions'], build?: string): [string, string] {
  const all = [
    ...new Set(
      today.flatMap((s) => s.lines.filter((l) => !l.setUp && (!build || l.build === build)).map((l) => l.title)),
    ),
  ];
  const cut = (t: string) => (t.length > 34 ? `${t.slice(0, 32)}…` : t);
  const others = today.flatMap((s) => s.lines).filter((l) => build && l.build !== build && !l.setUp).length;
  const rest = all.length > 2 ? `and ${all.length - 1} more` : (all[1] ?? '');
  return [cut(all[0] ?? (others ? 'other builds' : '')), cut(rest)];
}

/**
 * The calendar as evenings: each step a block, with a tail that thins out over the days
 * until the next may follow; a hard edge where a working window closes.
 */
export function Tails({ evenings, build, days = 14 }: { evenings: Evenings; build?: string; days?: number }) {
  const first = Date.parse(`${evenings.asOf.slice(0, 10)}T00:00:00Z`);
  const at = (iso: string) => Date.parse(`${iso.slice(0, 16)}:00Z`) - first;
  const list = evenings.sessions.filter((s) => at(s.from) < days * day);
  const low = Math.min(18 * 60, ...list.map((s) => minute(s.from)));
  const high = Math.max(22 * 60, ...list.map((s) => minute(s.to) || 1440));
  const wide = 620;
  const left = 66;
  const names = 205;
  const row = 34;
  const x = (m: number) => left + ((m - low) / (high - low)) * (wide - left - names);
  const rows = Array.from({ length: days }, (_, i) => i);
  const y = (i: number) => 24 + i * row;
  const hours: number[] = [];
  for (let h = Math.ceil(low / 60); h <= high / 60; h += high - low > 480 ? 2 : 1) {
    hours.push(h);
  }
  // Tails that run at one time lie beside each other.
  const lanes = new Map<string, number>();
  for (const l of list.flatMap((s) => s.lines)) {
    if (l.tail && !lanes.has(l.build + l.task) && (build === undefined || l.build === build)) {
      lanes.set(l.build + l.task, lanes.size % 3);
    }
  }
  const builds = [...new Set(list.flatMap((s) => s.lines.map((l) => l.name)))];
  return (
    <>
      <svg
        className={classes.tails}
        viewBox={`0 0 ${wide} ${24 + days * row + 6}`}
        role="img"
        aria-label={`Drying tails: ${list.length} sessions in ${days} days`}
      >
        <defs>
          <linearGradient id="tail" x1="0" x2="1" y1="0" y2="0">
            <stop offset="0" stopColor="var(--cold)" stopOpacity="0.75" />
            <stop offset="1" stopColor="var(--cold)" stopOpacity="0.15" />
          </linearGradient>
        </defs>
        {hours.map((h) => (
          <g key={h}>
            <line x1={x(h * 60)} x2={x(h * 60)} y1="18" y2={24 + days * row} stroke="var(--hair)" strokeWidth="0.5" />
            <text x={x(h * 60)} y="12" fontSize="11" textAnchor="middle" fill="var(--mute)">
              {h}:00
            </text>
          </g>
        ))}
        {rows.map((i) => {
          const date = new Date(first + i * day).toISOString();
          const today = list.filter((s) => s.from.slice(0, 10) === date.slice(0, 10));
          return (
            <g key={date}>
              <line x1="0" x2={wide} y1={y(i) + row - 4} y2={y(i) + row - 4} stroke="var(--hair)" strokeWidth="0.5" />
              <text
                x="0"
                y={y(i) + 15}
                fontSize="12.5"
                fontWeight={i === 0 ? 700 : 400}
                fill={i === 0 ? 'var(--ember)' : today.length ? 'var(--ink)' : 'var(--mute)'}
              >
                {clock(date, 'day')}
              </text>
              <text x={wide - names + 8} y={y(i) + 14} fontSize="11.5" fill="var(--ink)">
                {named(today, build)[0]}
              </text>
              <text x={wide - names + 8} y={y(i) + 26} fontSize="11.5" fill="var(--mute)">
                {named(today, build)[1]}
              </text>
              {today.map((s) => (
                <rect
                  key={s.from}
                  x={x(minute(s.from))}
                  y={y(i) + 2}
                  width={Math.max(0, x(minute(s.to) || 1440) - x(minute(s.from)))}
                  height={row - 9}
                  fill="none"
                  stroke="var(--mute)"
                  strokeWidth="0.7"
                />
              ))}
            </g>
          );
        })}
        {list.flatMap((s) =>
          s.lines.map((l) => {
            const i = Math.floor(at(l.from) / day);
            return <TailOf key={l.build + l.task + l.from + (l.setUp ? 'set' : '')} line={l} />;

            function TailOf({ line }: { line: EveningLine }) {
              const x0 = x(minute(line.from));
              const x1 = Math.max(x0 + 2, x(minute(line.to) || 1440));
              const faded = build !== undefined && line.build !== build;
              const top = y(i) + 4;
              const tall = row - 13;
              const waits = line.tail ? at(line.tail) - at(line.to) : 0;
              const lane = lanes.get(line.build + line.task) ?? 0;
              // The tail goes on over the nights, thinner and thinner, to the row it ends in.
              const pieces: { row: number; from: number; to: number; a: number; b: number }[] = [];
              if (waits > 0 && line.tail && !faded) {
                const last = Math.min(Math.floor(at(line.tail) / day), days - 1);
                for (let r = i; r <= last; r++) {
                  const from = r === i ? x1 : left;
                  const end =
                    r === Math.floor(at(line.tail) / day)
                      ? x(Math.min(Math.max(minute(line.tail), low), high))
                      : wide - names;
                  const share = (t: number) => Math.max(0, 1 - (t - at(line.to)) / waits);
                  const begin = r === i ? at(line.to) : r * day + low * 60_000;
                  const stop = r === Math.floor(at(line.tail) / day) ? at(line.tail) : r * day + high * 60_000;
                  if (end > from) {
                    pieces.push({ row: r, from, to: end, a: share(begin), b: share(stop) });
                  }
                }
              }
              return (
                <g opacity={faded ? 0.35 : 1}>
                  <title>
                    {[
                      `${clock(line.from)} to ${clock(line.to, 'time')}: ${line.title}, ${line.name}.`,
                      line.why,
                      line.tail && `What waits for it may begin ${clock(line.tail)}.`,
                      line.closes && `To be finished by ${clock(line.closes)}.`,
                    ]
                      .filter(Boolean)
                      .join(' ')}
                  </title>
                  {pieces.map((p) => {
                    const mid = y(p.row) + 7 + lane * 7;
                    const a = 0.5 + p.a * 2.6;
                    const b = 0.5 + p.b * 2.6;
                    return (
                      <path
                        key={p.row}
                        d={`M${p.from} ${mid - a}L${p.to} ${mid - b}V${mid + b}L${p.from} ${mid + a}z`}
                        fill="var(--cold)"
                        fillOpacity={0.3 + 0.5 * p.a}
                      />
                    );
                  })}
                  <rect
                    x={x0}
                    y={top}
                    width={x1 - x0 - 0.8}
                    height={tall}
                    fill={line.setUp ? 'none' : (line.hex ?? 'var(--plastic)')}
                    stroke={line.chain ? 'var(--ink)' : 'var(--mute)'}
                    strokeWidth={line.chain ? 1.8 : 0.8}
                    strokeDasharray={line.setUp ? '2 1.5' : undefined}
                  />
                  {line.closes && at(line.closes) - i * day < day && (
                    <path
                      d={`M${x(Math.min(minute(line.closes), high))} ${top - 3}v${tall + 6}`}
                      stroke="var(--ink)"
                      strokeWidth="2.4"
                    />
                  )}
                </g>
              );
            }
          }),
        )}
      </svg>
      <p className={classes.legend}>
        <span>block: hands on</span>
        <span>tail: drying until the next may follow</span>
        <span>bold edge: critical chain</span>
        <span>bar: a window closes</span>
        <span>dashed: airbrush flushed or stripped</span>
        {builds.length > 1 && build && <span>faint: other builds</span>}
      </p>
    </>
  );
}
