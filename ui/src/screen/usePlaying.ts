import { useEffect, useState } from 'react';
import type { Plan } from '../api/client';

/** How long a state stands while the path plays, ms. */
const stands = 550;

/** The path as a film: from one look to the next, each as soon as its pictures are here. */
export function usePlaying(plan: Plan | undefined, at: number, stand: (index: number) => void) {
  const [playing, setPlaying] = useState(false);
  const [shown, setShown] = useState<string>();
  const look = plan?.steps[at]?.look;
  const next = plan ? plan.steps.findIndex((s, i) => i > at && s.look !== look) : -1;
  useEffect(() => {
    if (!playing || shown !== look) {
      return; // its pictures are on their way
    }
    if (next < 0) {
      setPlaying(false);
      return;
    }
    const wait = setTimeout(() => stand(next), stands);
    return () => clearTimeout(wait);
  }, [playing, next, shown, look, stand]);
  return {
    playing,
    onShown: setShown,
    /** At the end it begins anew. */
    play: () => {
      if (!playing && next < 0) {
        stand(0);
      }
      setPlaying(!playing);
    },
  };
}
