import { words } from '../api/client';
import type { RoomProps } from '../room/props';
import classes from '../room/room.module.css';
import { Why } from '../why/Why';
import own from './Core.module.css';
import { type CoreSample, type Spot, useCore } from './useFate';

type Ply = CoreSample['plies'][number];

interface CoreProps extends RoomProps {
  look: string;
  spot?: Spot;
}

/** The cut column at a place: what lies there, how thick, what of it is seen, what can be taken back. */
export function CoreRoom({ data, look, spot, zone }: CoreProps) {
  const core = useCore(data.build.id, look, spot, zone);
  return (
    <section aria-label="Core sample" className={classes.worked}>
      <p className={classes.mute}>
        {spot || zone
          ? 'Click another place, or walk along the path and see it grow.'
          : 'Click anywhere on the vehicle: the layers are cut there.'}
      </p>
      {core.error && (
        <p role="alert" className="trouble">
          {words(core.error)}
        </p>
      )}
      {core.isLoading && <p role="status">Cutting …</p>}
      {core.data && (spot || zone) && <Column core={core.data} />}
    </section>
  );
}

/** Height of a line of the list beside the column, px. */
const line = 46;
const wide = 64;
const leads = 30;

/** How high each ply is drawn, from below, px: to scale, but what is much thicker than all others is cut short. */
function heights(plies: Ply[], all: number): { high: number; cut: boolean }[] {
  const films = plies.map((p) => p.filmUm);
  const sorted = [...films].sort((a, b) => a - b);
  const usual = sorted.slice(0, -1).reduce((a, b) => a + b, 0) || sorted[0] || 1;
  const shown = films.map((f) => Math.min(f, 0.6 * usual));
  const k =
    all /
    Math.max(
      shown.reduce((a, b) => a + b, 0),
      1e-9,
    );
  return films.map((f, i) => ({
    high: Math.max(2, k * (shown[i] ?? 0)),
    cut: f > (shown[i] ?? 0) + 1e-9 && f > usual,
  }));
}

function Column({ core }: { core: CoreSample }) {
  const { plies } = core;
  const tall = Math.max(plies.length, 1) * line;
  const drawn = heights(plies, tall - 26);
  const whole = drawn.reduce((sum, d) => sum + d.high, 0);
  let y = whole;
  const placed = plies.map((p, i) => {
    const { high, cut } = drawn[i] ?? { high: 2, cut: false };
    y -= high;
    return { p, y, high, cut, row: (plies.length - 1 - i) * line + line / 2, number: i + 1 };
  });
  const back = placed[plies.length - core.back];
  return (
    <>
      <h3>{core.where}</h3>
      <p>
        <i className={own.chip} style={{ background: core.ends }} />
        seen {core.ends}, {core.sheen};{' '}
        <Why why={core.why} name="All that lies there">
          {core.filmUm.toFixed(0)} µm
        </Why>{' '}
        lie there
      </p>
      <div className={own.core} style={{ gridTemplateColumns: `${wide + leads}px 1fr` }}>
        <svg
          width={wide + leads}
          height={Math.max(tall, whole + 18)}
          role="img"
          aria-label={`${plies.length} layers on ${core.where}, to scale`}
        >
          {placed.map(({ p, y: top, high, cut, row, number }) => (
            <g key={number} data-gone={p.meant && p.end < 0.5 ? true : undefined} className={own.ply}>
              <rect
                x="1"
                y={top}
                width={wide * Math.max(p.cover, 0.08)}
                height={high}
                fill={p.hex ?? 'none'}
                className={p.clear ? own.clear : undefined}
              />
              {p.bares && <path d={`M1 ${top + high / 2}h${wide}`} className={own.bares} />}
              {cut && (
                <path d={`M-2 ${top + high / 2 + 5} l12 -10 12 10 12 -10 12 10 12 -10 14 10`} className={own.cut} />
              )}
              <path
                d={`M${wide + 1} ${top + high / 2} L${wide + leads - 10} ${row} H${wide + leads}`}
                className={own.lead}
              />
            </g>
          ))}
          {back && <path d={`M0 ${back.y + back.high}H${wide + 8}`} className={own.back} />}
          <rect x="1" y={whole} width={wide} height="16" fill={core.bare} />
          <text x="6" y={whole + 12} className={own.kit}>
            the kit
          </text>
        </svg>
        <ol reversed className={own.plies} style={{ gridAutoRows: `${line}px` }}>
          {[...placed].reverse().map(({ p, number }) => (
            <li key={number} data-gone={p.meant && p.end < 0.5 ? true : undefined} title={p.back}>
              <span>
                <i className={own.chip} style={{ background: p.after }} />
                {p.name}
              </span>
              <small>
                {p.bares ? 'takes off' : `${film(p.filmUm)} µm`}
                {p.cover < 0.995 && ` on ${(100 * p.cover).toFixed(0)} % of it`}
                {p.meant && seen(p, placed[number]?.p.layer === p.layer)}
              </small>
            </li>
          ))}
        </ol>
      </div>
      <p>{core.words}.</p>
      {core.missing.length > 0 && <p className={classes.mute}>Not here: {core.missing.join(', ')}.</p>}
    </>
  );
}

const film = (um: number) => (um < 10 ? um.toFixed(1) : um.toFixed(0));

/** What is still seen of a ply; another colour of its scheme may lie over it. */
const seen = (p: Ply, covered: boolean) =>
  p.now < 0.5 && covered
    ? ', under the next colour'
    : p.now < 0.5
      ? ', changes nothing seen'
      : p.end < 0.5
        ? ', no longer seen'
        : `, ${(100 * p.part).toFixed(0)} % still seen`;
