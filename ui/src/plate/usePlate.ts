import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { api, ask, type Plan, type View } from '../api/client';

export type Box = [number, number, number, number];

/** Points to a millimetre are asked for in steps, so that pictures are met again. */
const step = 1.25;
const inSteps = (px: number) => Number((step ** Math.ceil(Math.log(px) / Math.log(step))).toFixed(4));

/** Where a picture of a build is found, by what it shows. */
export function pictureUrl(build: string, look: string, side: string, px: number, box?: Box, only?: string[]): string {
  const q = new URLSearchParams({ px: String(px) });
  if (box) {
    q.set('box', box.map((v) => Number(v.toFixed(2))).join(','));
  }
  if (only?.length) {
    q.set('only', only.join(','));
  }
  return `/api/builds/${build}/pictures/${look}/${side}?${q}`;
}

/** What is drawn of the vehicle besides its pictures: what shows of each zone. */
export function useDrawing(plan: Plan) {
  return useQuery({
    queryKey: ['drawing', plan.build, plan.drawing],
    queryFn: () =>
      ask(
        api.GET('/api/builds/{id}/drawings/{drawing}', { params: { path: { id: plan.build, drawing: plan.drawing } } }),
      ),
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
  });
}

const fetched = async (url: string): Promise<void> => {
  const img = new Image();
  img.src = url;
  await img.decode();
};

export interface Shown {
  look: string;
  px: number;
  urls: Record<View['side'], string>;
}

/** Whether the reader asks pages to fetch no more than they show. */
const sparing = () => (navigator as { connection?: { saveData?: boolean } }).connection?.saveData === true;

/** The pictures of all views: those of the look that is wanted as soon as all are here, those
 * before it until then. Looks that are likely to be wanted next are fetched ahead. */
export function usePictures(plan: Plan, look: string, near: string[], wide: number): Shown | undefined {
  const [shown, setShown] = useState<Shown>();
  const px = inSteps((wide * Math.min(window.devicePixelRatio, 2)) / plan.sheet.width);
  const { build, views } = plan;
  // Only what the addresses are made of: the plan itself is fetched anew every minute.
  const sides = views.map((v) => v.side).join(',');
  const ahead = sparing() ? '' : near.join(',');
  useEffect(() => {
    let here = true;
    const all = (of: string) =>
      Object.fromEntries(sides.split(',').map((side) => [side, pictureUrl(build, of, side, px)])) as Shown['urls'];
    const urls = all(look);
    Promise.all(Object.values(urls).map(fetched))
      .then(() => here && setShown({ look, px, urls }))
      .then(async () => {
        for (const next of ahead.split(',').filter(Boolean)) {
          if (here) {
            await Promise.all(Object.values(all(next)).map(fetched));
          }
        }
      })
      .catch(() => {
        // The build was changed meanwhile: its next plan names pictures that are there.
      });
    return () => {
      here = false;
    };
  }, [build, sides, look, ahead, px]);
  return shown;
}

export interface Detail {
  side: View['side'];
  box: Box;
  url: string;
}

/** How long the plate rests before what is seen of it is fetched sharp. */
const rest = 180;

/** Sharper pictures of what is seen, where it is drawn nearer than the pictures of the whole. */
export function useDetails(plan: Plan, shown: Shown | undefined, box: Box, wide: number): Detail[] {
  const px = inSteps((wide * Math.min(window.devicePixelRatio, 2)) / box[2]);
  const wanted = useMemo(() => {
    if (!shown || px < 1.5 * shown.px) {
      return [];
    }
    return plan.views.flatMap((v): Detail[] => {
      const snap = Math.max(box[2] / 8, 1);
      const low = (seen: number, at: number) => Math.max(Math.floor((seen - at) / snap) * snap, 0);
      const high = (seen: number, at: number, size: number) => Math.min(Math.ceil((seen - at) / snap) * snap, size);
      const x0 = low(box[0], v.x);
      const y0 = low(box[1], v.y);
      const x1 = high(box[0] + box[2], v.x, v.width);
      const y1 = high(box[1] + box[3], v.y, v.height);
      const part: Box = [x0, y0, x1 - x0, y1 - y0];
      return part[2] > 0 && part[3] > 0
        ? [{ side: v.side, box: part, url: pictureUrl(plan.build, shown.look, v.side, px, part) }]
        : [];
    });
  }, [plan, shown, box, px]);
  const [details, setDetails] = useState<Detail[]>([]);
  useEffect(() => {
    let here = true;
    if (wanted.length === 0) {
      setDetails([]);
      return;
    }
    const later = setTimeout(() => {
      Promise.all(wanted.map((d) => fetched(d.url)))
        .then(() => here && setDetails(wanted))
        .catch(() => {
          // The picture of the whole stays.
        });
    }, rest);
    return () => {
      here = false;
      clearTimeout(later);
    };
  }, [wanted]);
  return details.every((d) => wanted.some((w) => w.url === d.url)) ? details : [];
}
