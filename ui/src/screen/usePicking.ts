import { useState } from 'react';
import { api, ask, type Edit, type View, words } from '../api/client';
import type { BuildTools } from '../api/useBuild';
import type { FormWork, Placing } from '../form/useFormWork';
import { edited } from '../measure/Cables';
import type { Spot } from '../paint/useFate';
import type { Marking, MarkWork } from '../paint/useMarking';
import type { PutWork } from '../paint/useMarkings';
import type { Pinning, PinWork } from '../paint/useScheme';

type Side = View['side'];

/** A dimension whose ends are being picked; from is the one that is. */
interface Placed {
  key: string;
  name: string;
  from?: { side: Side; at: [number, number] };
}

/** Clicks on the views: the ends of a dimension, a cable's points, the face that something stands on. */
export function usePicking(
  id: string,
  { state, edit }: BuildTools,
  form: FormWork,
  inBody: boolean,
  pins: PinWork | undefined,
  coring: ((spot: Spot) => void) | undefined,
  marks: MarkWork | undefined,
  puts: PutWork | undefined,
) {
  const [placed, setPlaced] = useState<Placed>();
  const [cabling, setCabling] = useState<string>();
  const [hint, setHint] = useState<string>();
  const placing = inBody ? form.placing : undefined;
  const cable = state.data?.build.cables?.find((c) => c.id === cabling);

  /** What of the vehicle lies at a point of a view. */
  const on = (side: Side, x: number, y: number) =>
    ask(api.POST('/api/builds/{id}/pick', { params: { path: { id } }, body: { side, x, y } }));

  const end = ({ key, name, from }: Placed, side: Side, at: [number, number]) => {
    if (from?.side !== side) {
      setPlaced({ key, name, from: { side, at } });
      return;
    }
    setPlaced(undefined);
    edit.mutate([{ op: 'dimension', dimension: { id: key, at: { side, from: from.at, to: at } } }]);
  };

  /** Puts what is to be placed where it was clicked; a line wants two clicks, bolts may be many. */
  const put = async (p: Placing, place: NonNullable<Edit['place']>) => {
    const { op, small, from } = p;
    if (!small) {
      if (await form.take([{ op, place }])) {
        form.setPlacing(undefined);
      }
    } else if (small.way === 'line' && !from) {
      form.setPlacing({ ...p, from: place });
    } else {
      const zone = place.on ?? small.zone;
      await form.take([{ op, small: { ...small, zone }, ...(from ? { place: from, to: place } : { place }) }]);
      form.setPlacing({ ...p, from: undefined });
    }
  };

  const pick = async (side: Side, x: number, y: number) => {
    setHint(undefined);
    if (placed) {
      end(placed, side, [x, y]);
      return;
    }
    try {
      if (marks?.marking) {
        const { point, zone } = await on(side, x, y);
        await marks.take({ on: zone, at: point as [number, number, number] });
      } else if (puts?.putting) {
        const { point, zone } = await on(side, x, y);
        await puts.take(zone, point as [number, number, number]);
      } else if (pins?.pinning) {
        const { point, zone } = await on(side, x, y);
        await pins.take({ what: 'pin', on: zone, at: point });
      } else if (placing) {
        const { point, zone } = await on(side, x, y);
        await put(placing, { what: placing.what, on: zone, at: point });
      } else if (cable) {
        const { point } = await on(side, x, y);
        await edit.mutateAsync([{ op: 'cable', cable: { ...edited(cable), points: [...cable.points, point] } }]);
      }
    } catch (e) {
      setHint(words(e));
    }
  };

  const active =
    placed !== undefined ||
    cabling !== undefined ||
    placing !== undefined ||
    !!pins?.pinning ||
    !!marks?.marking ||
    !!puts?.putting;
  const putting =
    typeof puts?.putting === 'object'
      ? `Click where the middle of ${puts.putting.name} shall be`
      : puts?.putting && 'Click on the wheel, section or fitting that came from another vehicle';
  return {
    cabling,
    setCabling,
    from: placed?.from,
    place: (line: { key: string; name: string }) => setPlaced({ key: line.key, name: line.name }),
    pick: active ? pick : coring ? (side: Side, x: number, y: number) => coring({ side, at: [x, y] }) : undefined,
    said: hint ?? putting ?? (active ? asks(placed, placing, pins?.pinning, marks?.marking) : undefined),
    stop: () => {
      setPlaced(undefined);
      setCabling(undefined);
      form.setPlacing(undefined);
      pins?.setPinning(undefined);
      marks?.setMarking(undefined);
      puts?.setPutting(undefined);
      setHint(undefined);
    },
  };
}

/** What the next click is for. */
function asks(placed?: Placed, placing?: FormWork['placing'], pinning?: Pinning, marking?: Marking): string {
  if (marking) {
    return `Click where ${{ more: 'more', none: 'none', only: 'all' }[marking.what]} of it shall be`;
  }
  if (pinning?.act === 'pin') {
    return 'Click where that colour shall be; pins can be dragged';
  }
  if (pinning) {
    return pinning.from ? 'Click where the field shall be' : 'Click on the field that is to be moved';
  }
  if (placed) {
    return `${placed.name}: click ${placed.from ? 'its other end on the same view' : 'one end on a view'}`;
  }
  if (placing) {
    if (placing.op === 'small') {
      const end = placing.from ? 'where the line ends' : 'where the line begins';
      return `${placing.what}: click ${placing.small?.way === 'point' ? 'where one is' : end}`;
    }
    return placing.op === 'nameFace'
      ? `Click on the face that is ${placing.what}`
      : `Click on the face that the ${placing.what} stands on`;
  }
  return 'Click along the vehicle: each click adds a point to the path';
}
