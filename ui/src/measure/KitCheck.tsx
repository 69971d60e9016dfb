import { Button, SegmentedControl } from '@mantine/core';
import type { KitReport } from '../api/client';
import type { RoomProps } from '../room/props';
import { Why } from '../why/Why';
import classes from './Measure.module.css';

/** The scale the kit really has, and what falls out of it. */
export function KitCheck({ tools, data, onSizing }: RoomProps & { onSizing: (key?: string) => void }) {
  const { kit } = data.plan;
  if (!kit) {
    return (
      <section aria-label="Kit check">
        <p>
          Nothing is measured yet. Type what your caliper shows into the size sheet, three sizes or more: then this
          tells which scale the kit really has and which parts do not fit it.
        </p>
      </section>
    );
  }
  const wrong = kit.pairs.filter((p) => p.outlier);
  const fits = kit.fit === 'kit' ? `the kit as it is, ${kit.implied}` : `the box, ${data.plan.scale}`;
  const decide = (id: string, act: string) => tools.edit.mutate([{ op: 'dimension', dimension: { id, act } }]);
  return (
    <section aria-label="Kit check" className={classes.stack}>
      <p className={classes.verdict}>
        <Why why={kit.why} name="Implied scale">
          <strong>{kit.verdict[0]}</strong>
        </Why>
      </p>
      {kit.verdict.slice(1).map((v) => (
        <p key={v} className={classes.said}>
          {v}
        </p>
      ))}
      <DeviationPlot kit={kit} onSizing={onSizing} />
      {wrong.length > 0 && (
        <>
          <div className={classes.headRow}>
            <h3>What would have to change</h3>
            <span className={classes.gap} />
            <SegmentedControl
              size="xs"
              aria-label="What the parts are made to fit"
              data={[
                { value: 'kit', label: `fit the kit, ${kit.implied}` },
                { value: 'box', label: `fit the box, ${data.plan.scale}` },
              ]}
              value={kit.fit}
              onChange={(fit) => tools.edit.mutate([{ op: 'fit', text: fit }])}
            />
          </div>
          {wrong.map((p) => (
            <article key={p.id} className={classes.change} aria-label={p.name}>
              <div>
                <strong>{p.name}</strong>{' '}
                <Why why={p.why} name={`${p.name}, deviation`}>
                  <span className="model">{p.off}</span>
                </Why>{' '}
                <span className="real">({p.offReal} at full size)</span> against {fits}
                {p.from === 'leaflet' && ', length from the leaflet'}
              </div>
              <div className={classes.acts}>
                {p.mends.map((m) => (
                  <Button
                    key={m.act}
                    size="compact-sm"
                    variant={p.decision?.act === m.act ? 'filled' : 'default'}
                    aria-pressed={p.decision?.act === m.act}
                    onClick={() => decide(p.id, p.decision?.act === m.act ? '' : m.act)}
                  >
                    {m.label}
                  </Button>
                ))}
              </div>
              {p.decision && (
                <p className={classes.mute}>
                  Decided: {p.decision.act}, recorded at {p.decision.factor.toFixed(3)} × scale. Press it again to take
                  it back.
                </p>
              )}
            </article>
          ))}
        </>
      )}
      <table className={classes.table}>
        <thead>
          <tr>
            <th>Size</th>
            <th>Off</th>
            <th>At full size</th>
            <th>%</th>
            <th>Weight</th>
          </tr>
        </thead>
        <tbody>
          {kit.pairs.map((p) => (
            <tr key={p.id}>
              <td>
                {p.outlier ? '◇ ' : ''}
                {p.name}
              </td>
              <td>
                <Why why={p.why} name={`${p.name}, deviation`}>
                  <span className="model">{p.off}</span>
                </Why>
              </td>
              <td className="real">{p.offReal}</td>
              <td>{p.percent.toFixed(1)}</td>
              <td>
                <Why why={p.why} name={`${p.name}, weight`}>
                  {p.weight === 0 ? 'left out' : p.weight.toFixed(2)}
                </Why>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const nice = (x: number) => {
  const p = 10 ** Math.floor(Math.log10(x));
  return p * ([1, 2, 5, 10].find((k) => k * p >= x) ?? 10);
};

/** Deviations against size: dots fit, diamonds do not; whiskers are two standard deviations. */
function DeviationPlot({ kit, onSizing }: { kit: KitReport; onSizing: (key?: string) => void }) {
  const width = 590;
  const height = 240;
  const left = 46;
  const bottom = 30;
  const longest = Math.max(...kit.pairs.map((p) => p.realMm)) * 1.08;
  const most = nice(Math.max(0.2, ...kit.pairs.map((p) => Math.abs(p.offMm) + p.sigmaMm)));
  const x = (mm: number) => left + (mm / longest) * (width - left - 12);
  const y = (off: number) => 18 + (height - bottom - 18) / 2 - (off / most) * ((height - bottom - 18) / 2 - 8);
  const across = nice(longest / 5);
  const ticks = Array.from({ length: Math.floor(longest / across) + 1 }, (_, i) => i * across);
  // Where the other of both scales lies: a line, since its deviation grows with size.
  const other = kit.fit === 'kit' ? longest / kit.box - longest / kit.n : longest / kit.n - longest / kit.box;
  const otherName = kit.fit === 'kit' ? `box 1:${kit.box}` : `kit ${kit.implied}`;
  const end = Math.abs(other) > most ? (longest * most) / Math.abs(other) : longest;
  return (
    <svg
      className={classes.plot}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Deviation of ${kit.pairs.length} sizes against their real size`}
    >
      {[-most, -most / 2, 0, most / 2, most].map((v) => (
        <g key={v}>
          <line x1={left} x2={width - 12} y1={y(v)} y2={y(v)} stroke="var(--hair)" strokeWidth={v === 0 ? 1.6 : 0.6} />
          <text x={left - 6} y={y(v) + 4} textAnchor="end" className={classes.tick}>
            {v > 0 ? '+' : v < 0 ? '−' : ''}
            {Math.abs(Number(v.toPrecision(3)))}
          </text>
        </g>
      ))}
      <text x={width - 12} y={14} textAnchor="end" className={classes.tick}>
        across: real size
      </text>
      {ticks.map((t) => (
        <text key={t} x={x(t)} y={height - bottom + 16} textAnchor="middle" className={classes.tick}>
          {t / 1000} m
        </text>
      ))}
      <text x={left} y={14} className={classes.axis}>
        deviation in mm on the model, against {kit.fit === 'kit' ? kit.implied : `1:${kit.box}`}
      </text>
      <line
        x1={x(0)}
        y1={y(0)}
        x2={x(end)}
        y2={y((other * end) / longest)}
        stroke="var(--mute)"
        strokeDasharray="5 4"
        strokeWidth="1"
      />
      <text
        x={Math.min(x(end), width - 14)}
        y={y((other * end) / longest) + (other > 0 ? 16 : -6)}
        textAnchor="end"
        className={classes.tick}
      >
        {otherName}
      </text>
      {kit.pairs.map((p) => (
        // biome-ignore lint/a11y/noStaticElementInteractions: a point of a plot, shown again in the table
        <g key={p.id} className={classes.dot} onClick={() => onSizing(p.id)}>
          <title>{`${p.name}: ${p.off}`}</title>
          <line
            x1={x(p.realMm)}
            x2={x(p.realMm)}
            y1={y(p.offMm - 2 * p.sigmaMm)}
            y2={y(p.offMm + 2 * p.sigmaMm)}
            stroke="var(--ink)"
            strokeWidth="1.2"
          />
          {p.outlier ? (
            <>
              <rect
                x={x(p.realMm) - 5}
                y={y(p.offMm) - 5}
                width="10"
                height="10"
                transform={`rotate(45 ${x(p.realMm)} ${y(p.offMm)})`}
                fill="var(--sheet)"
                stroke="var(--ink)"
                strokeWidth="2"
              />
              <text
                x={x(p.realMm) + (p.realMm > longest * 0.6 ? -11 : 11)}
                y={y(p.offMm) + 4}
                textAnchor={p.realMm > longest * 0.6 ? 'end' : 'start'}
                className={classes.outlier}
              >
                {p.name}
              </text>
            </>
          ) : (
            <circle cx={x(p.realMm)} cy={y(p.offMm)} r="4.5" fill="var(--ink)" />
          )}
        </g>
      ))}
    </svg>
  );
}
