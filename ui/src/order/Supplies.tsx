import type { KitPart } from '../api/client';
import { PotSelect } from '../paint/PotSelect';
import type { RoomProps } from '../room/props';
import classes from './Order.module.css';

interface SuppliesProps extends Pick<RoomProps, 'tools' | 'data'> {
  /** A detail is painted from another jar. */
  onDetail: (id: string, by: Partial<KitPart>) => void;
}

/** What steps take of the shelf besides their layers: cement, filler, decal fluids, the paint of details. */
export function Supplies({ tools, data, onDetail }: SuppliesProps) {
  const lines = data.plan.pots.filter((p) => p.supply || p.part);
  if (lines.length === 0) {
    return null;
  }
  return (
    <section aria-label="From the shelf" className={classes.room}>
      <h3>From the shelf</h3>
      <p className={classes.lead}>What the steps take besides the layers. What is named here counts at shopping.</p>
      <div className={classes.two}>
        {lines.map((line) => (
          <PotSelect
            key={line.supply ?? line.part}
            label={line.title ?? ''}
            family={line.family}
            value={line.pot}
            line={line}
            onTake={(jar) =>
              line.part
                ? onDetail(line.part, { jar: jar || undefined })
                : tools.edit.mutate([{ op: 'supply', text: line.supply, jar: jar || undefined }])
            }
          />
        ))}
      </div>
    </section>
  );
}
