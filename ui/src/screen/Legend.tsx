import { Select } from '@mantine/core';
import type { Plan } from '../api/client';
import type { BuildTools } from '../api/useBuild';
import { Why } from '../why/Why';
import classes from './BuildScreen.module.css';

interface LegendProps {
  plan: Plan;
  zone?: string;
  onZone: (zone?: string) => void;
  tools: BuildTools;
}

const surfaces = [
  { value: 'smooth', label: 'smooth surface' },
  { value: 'cast', label: 'cast' },
  { value: 'ribbed', label: 'ribbed or coated' },
  { value: 'rolled', label: 'rolled, cut edges' },
];

/** The zones by name, in step with the plate, and the colours with their shares. */
export function Legend({ plan, zone, onZone, tools }: LegendProps) {
  const relief = zone ? (tools.state.data?.build.relief?.[zone] ?? 'smooth') : undefined;
  const of = plan.zones.find((z) => z.zone === zone);
  const zones = plan.zones
    .map((z) => ({ value: z.zone, label: plan.places[z.zone] ?? z.zone }))
    .sort((a, b) => a.label.localeCompare(b.label));
  return (
    <div className={classes.legend}>
      <Select
        aria-label="Zone"
        placeholder="Whole vehicle"
        size="xs"
        w={230}
        searchable
        clearable
        nothingFoundMessage="No zone of that name"
        data={zones}
        value={zone ?? null}
        onChange={(z) => onZone(z ?? undefined)}
        comboboxProps={{ position: 'top-start' }}
      />
      {plan.colours.map((c, i) => (
        <span key={c.name} className={classes.swatchLine}>
          <svg width="22" height="14" aria-hidden="true">
            <rect width="22" height="14" fill={c.hex} stroke="var(--ink)" strokeWidth="0.6" />
          </svg>
          {c.name} {(100 * (of ? (of.shares[i] ?? 0) : c.share)).toFixed(1)} %
        </span>
      ))}
      {of && (
        <span>
          <Why why={of.why} name="Area on the model">
            {of.areaCm2.toFixed(1)} cm²
          </Why>{' '}
          on the model
        </span>
      )}
      {of && (
        <Select
          aria-label={`Surface of ${plan.places[of.zone] ?? of.zone}`}
          size="xs"
          w={190}
          allowDeselect={false}
          data={surfaces}
          value={relief ?? 'smooth'}
          onChange={(text) => text && tools.edit.mutate([{ op: 'relief', zone: of.zone, text }])}
          comboboxProps={{ position: 'top-start' }}
        />
      )}
    </div>
  );
}
