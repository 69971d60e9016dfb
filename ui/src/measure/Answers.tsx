import type {
  DrillAnswer as DrillAnswerOf,
  RopeAnswer as RopeAnswerOf,
  StockAnswer as StockAnswerOf,
} from '../api/client';
import { Why } from '../why/Why';
import { Facts } from './Facts';
import classes from './Measure.module.css';
import { Mine } from './Mine';

const percent = (x: number) => `${x > 0 ? '+' : x < 0 ? '−' : ''}${Math.abs(x).toFixed(1)} %`;

function Wanted({ real, model, why }: { real: string; model: string; why: { formula: string; inputs: string[] } }) {
  return (
    <p className={classes.wanted}>
      <span className="real">{real} real</span> is{' '}
      <Why why={why} name="On the model">
        <span className="model">{model}</span>
      </Why>{' '}
      on the model
    </p>
  );
}

const Notes = ({ notes, cautions }: { notes: string[]; cautions: string[] }) => (
  <>
    {notes.map((n) => (
      <p key={n}>{n}</p>
    ))}
    {cautions.map((c) => (
      <p key={c} className={classes.caution}>
        {c}
      </p>
    ))}
  </>
);

/** What of the table is nearest to a size. */
export function StockAnswer({ answer }: { answer: StockAnswerOf }) {
  return (
    <div className={classes.stack}>
      <Wanted {...answer} />
      <table className={classes.table}>
        <tbody>
          {answer.groups.map((g) =>
            g.rows.map((r, i) => (
              <tr key={`${g.kind} ${r.item.id} ${r.side}`}>
                <th>{i === 0 ? g.kind : ''}</th>
                <td>{r.side}</td>
                <td className={classes.wrap}>
                  {r.item.name} <Mine item={r.item} />
                </td>
                <td>
                  <Why why={r.why} name={`${r.item.name}, error`}>
                    {percent(r.errorPercent)}
                  </Why>
                </td>
                <td className="real">{r.full}</td>
              </tr>
            )),
          )}
          {[...answer.laminates, ...answer.telescope].map((m, i) => (
            <tr key={m.words}>
              <th>{i === 0 ? (answer.laminates.length ? 'two layers' : 'telescoping') : ''}</th>
              <td />
              <td className={classes.wrap}>
                {m.words} <Mine item={m} />
              </td>
              <td>
                <Why why={m.why} name={m.words}>
                  {percent(m.errorPercent)}
                </Why>
              </td>
              <td className="real">{m.full}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {answer.facts.length > 0 && <Facts facts={answer.facts} />}
      <Notes {...answer} />
    </div>
  );
}

/** How a rope is twisted. */
export function RopeAnswer({ answer }: { answer: RopeAnswerOf }) {
  return (
    <div className={classes.stack}>
      <Wanted {...answer} />
      <table className={classes.table}>
        <thead>
          <tr>
            <th />
            <th>Twist</th>
            <th>Comes to</th>
            <th>Lay</th>
            <th>Cut each</th>
            <th>Least bend</th>
          </tr>
        </thead>
        <tbody>
          {answer.ways.map((w) => (
            <tr key={`${w.strands} ${w.item.id}`}>
              <td>
                <Strands n={w.strands} />
              </td>
              <td className={classes.wrap}>
                {w.words} <Mine item={w.item} />
                {w.also.length > 0 && <div className={classes.mute}>or {w.also.join(', ')}</div>}
              </td>
              <td>
                <Why why={w.why} name={w.words}>
                  <span className="model">{w.outerMm.toFixed(2)} mm</span>
                </Why>{' '}
                {percent(w.errorPercent)}
              </td>
              <td>
                <Why why={w.why} name={`${w.words}, lay`}>
                  {w.layMm.toFixed(1)} mm
                </Why>
              </td>
              <td>
                {w.layers.map((l) => (
                  <div key={l.circleMm}>
                    {w.layers.length > 1 && `${l.count} × `}
                    <Why why={w.why} name={`${w.words}, strand`}>
                      {l.cutMm.toFixed(1)} mm
                    </Why>
                  </div>
                ))}
              </td>
              <td>
                <Why why={w.why} name={`${w.words}, least bend`}>
                  {w.leastBendMm.toFixed(1)} mm
                </Why>
                {!w.bendsOk && ', kinks'}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Notes {...answer} />
    </div>
  );
}

/** A rope cut across: how its strands lie. */
function Strands({ n }: { n: number }) {
  const ring = (count: number, r: number) =>
    Array.from({ length: count }, (_, i) => [
      r * Math.cos((2 * Math.PI * i) / count - Math.PI / 2),
      r * Math.sin((2 * Math.PI * i) / count - Math.PI / 2),
    ]);
  const at =
    n === 7
      ? [[0, 0], ...ring(6, 1)]
      : n === 19
        ? [[0, 0], ...ring(6, 1), ...ring(12, 2)]
        : ring(n, 0.5 / Math.sin(Math.PI / n));
  const reach = Math.max(...at.map(([x = 0, y = 0]) => Math.hypot(x, y))) + 0.5;
  return (
    <svg width="26" height="26" viewBox={`${-reach} ${-reach} ${2 * reach} ${2 * reach}`} aria-hidden="true">
      {at.map(([x = 0, y = 0]) => (
        <circle key={`${x} ${y}`} cx={x} cy={y} r="0.46" fill="none" stroke="var(--ink)" strokeWidth={reach / 14} />
      ))}
    </svg>
  );
}

/** The way to a hole. */
export function DrillAnswer({ answer }: { answer: DrillAnswerOf }) {
  return (
    <div className={classes.stack}>
      <Wanted {...answer} />
      <table className={classes.table}>
        <tbody>
          {answer.rows.map((r) => (
            <tr key={r.side}>
              <th>{r.side}</th>
              <td>
                {r.item.name} <Mine item={r.item} />
              </td>
              <td>
                <Why why={r.why} name={r.item.name}>
                  {percent(r.errorPercent)}
                </Why>
              </td>
              <td className="real">{r.full}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {answer.steps.length > 1 && (
        <ol className={classes.bores} aria-label="Boring sequence">
          {answer.steps.map((b) => (
            <li key={b.item.id}>
              <Bored bore={b.item.sizeMm} wall={b.wallMm} />
              <span>
                {b.item.name} {b.pilot && '(pilot)'} <Mine item={b.item} />
              </span>
              {b.wallMm >= 0 && (
                <Why why={b.why} name={`${b.item.name}, wall`}>
                  <span className="model">wall {b.wallMm.toFixed(2)} mm</span>
                </Why>
              )}
              {b.warn && <strong role="note">{b.warn}</strong>}
            </li>
          ))}
        </ol>
      )}
      <p>
        Time{' '}
        <Why why={answer.timeWhy} name="Time">
          {answer.time}
        </Why>
      </p>
      <Notes {...answer} />
    </div>
  );
}

function Bored({ bore, wall }: { bore: number; wall: number }) {
  const outer = wall >= 0 ? bore + 2 * wall : bore * 1.6;
  return (
    <svg width="30" height="30" viewBox={`${-outer / 2} ${-outer / 2} ${outer} ${outer}`} aria-hidden="true">
      <circle r={outer / 2.06} fill={wall >= 0 ? 'var(--mute)' : 'none'} />
      <circle r={bore / 2} fill="var(--raised)" stroke="var(--ink)" strokeWidth={outer / 30} />
    </svg>
  );
}
