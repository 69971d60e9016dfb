import type { BuildState } from '../api/client';
import classes from '../room/room.module.css';
import { Why } from '../why/Why';
import own from './Scheme.module.css';
import type { Camouflage, Hold } from './useScheme';

const sides = { left: 'left side', right: 'right side', front: 'front', rear: 'rear', top: 'from above' };

/** How each colour's edges are held, part by part, in minutes; what is seen of each from every side. */
export function Holds({ told, data }: { told: Camouflage; data: BuildState }) {
  const { colours } = data.build.scheme;
  if (told.holds.length === 0) {
    return null;
  }
  const by = colours.map((c, i) => ({ c, holds: told.holds.filter((h) => h.colour === i + 1) }));
  return (
    <section aria-label="Edges" className={classes.form}>
      <h3>Freehand, or masked</h3>
      <table className={own.holds}>
        <thead>
          <tr>
            <th>on</th>
            <th>edge</th>
            <th>narrowest</th>
            <th>held by</th>
            <th>min</th>
          </tr>
        </thead>
        {by
          .filter((b) => b.holds.length > 0)
          .map(({ c, holds }) => (
            <tbody key={c.name}>
              <tr>
                <th colSpan={4} scope="rowgroup">
                  <i className={own.chip} style={{ background: c.hex }} /> {c.name}
                </th>
                <th>{Math.round(holds.reduce((s, h) => s + h.min, 0))}</th>
              </tr>
              {holds.map((h) => (
                <Row key={h.part} h={h} told={told} />
              ))}
            </tbody>
          ))}
      </table>
      <p className={classes.mute}>
        {Math.round(told.min)} minutes for all fields above {colours[0]?.name}
        {told.tapeCm > 0 && `, ${Math.ceil(told.tapeCm)} cm of tape`}
        {told.coverCm2 > 0 && `, ${Math.ceil(told.coverCm2)} cm² covered`}. One hand takes longer than another: the
        bench’s minutes correct these.
      </p>
      {colours.length > 1 && (
        <table className={own.holds} aria-label="Shares by view">
          <thead>
            <tr>
              <th>as seen</th>
              {colours.map((c) => (
                <th key={c.name} title={c.name}>
                  <i className={own.chip} style={{ background: c.hex }} />
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {told.views.map((v) => (
              <tr key={v.side}>
                <td>{sides[v.side]}</td>
                {v.shares.map((s, i) => (
                  <td key={colours[i]?.name}>{Math.round(100 * s)} %</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {told.corrections.length > 0 && (
        <details>
          <summary>Where one goes too far over another</summary>
          <ul className={classes.waits}>
            {told.corrections.map((c) => (
              <li key={`${c.above} ${c.below}`}>
                {c.words} ({Math.round(c.edgeMm / 10)} cm of edge)
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

function Row({ h, told }: { h: Hold; told: Camouflage }) {
  return (
    <tr data-narrow={h.narrow ? true : undefined} title={h.narrow}>
      <td>{told.parts[h.part] ?? h.part}</td>
      <td>{h.edgeMm < 100 ? `${h.edgeMm.toFixed(0)} mm` : `${(h.edgeMm / 10).toFixed(0)} cm`}</td>
      <td>{h.leastMm ? `${h.leastMm.toFixed(1)} mm` : '–'}</td>
      <td>{h.way}</td>
      <td>
        <Why why={h.why} name={`${told.parts[h.part] ?? h.part}, ${h.way}`}>
          {Math.max(1, Math.round(h.min))}
        </Why>
      </td>
    </tr>
  );
}
