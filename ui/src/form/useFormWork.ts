import { useRef, useState } from 'react';
import { api, ask, type Body, type BuildState, type Edit, type GearLine, type Wheel, words } from '../api/client';
import type { BuildTools } from '../build/useBuild';
import type { Point } from './outline';

/** What is being shaped: the part and its points while they are dragged, the wheels while
 * one is moved with what the track would take, and what was refused. */
export function useFormWork(tools: BuildTools, data: BuildState | undefined) {
  const [part, choose] = useState<string>();
  const [wheel, setWheel] = useState<number>();
  const [step, setStep] = useState(10);
  const [ghost, setGhost] = useState<{ part: string; side: string; points: Point[] }>();
  const [wheels, setWheels] = useState<Wheel[]>();
  const [live, setLive] = useState<GearLine>();
  const [fault, setFault] = useState<string>();
  const asking = useRef(false);
  const latest = useRef<Wheel[]>(undefined);

  const take = async (edits: Edit[]) => {
    try {
      await tools.edit.mutateAsync(edits);
      setFault(undefined);
      setGhost(undefined);
      setWheels(undefined);
      setLive(undefined);
      return true;
    } catch (e) {
      setFault(words(e));
      return false;
    }
  };
  const setBody = (body: Body) => take([{ op: 'body', body }]);

  /** Asks what the track would take; while an answer is on its way, the newest place waits. */
  const tryWheels = async (next: Wheel[]) => {
    setWheels(next);
    latest.current = next;
    if (asking.current || !data) {
      return;
    }
    asking.current = true;
    try {
      while (latest.current) {
        const now: Wheel[] = latest.current;
        latest.current = undefined;
        const { link, ground } = data.build;
        const answer = await ask(
          api.POST('/api/calc/track', { body: { scale: data.plan.scale, wheels: now, link, ground } }),
        );
        setLive(answer);
        setFault(undefined);
      }
    } catch (e) {
      setFault(words(e));
    } finally {
      asking.current = false;
    }
  };
  const setPart = (id?: string) => {
    choose(id);
    setGhost(undefined);
    setFault(undefined);
  };
  const drop = () => {
    setWheels(undefined);
    setLive(undefined);
    setGhost(undefined);
    setFault(undefined);
  };
  return {
    part,
    setPart,
    wheel,
    setWheel,
    step,
    setStep,
    ghost,
    setGhost,
    wheels,
    live,
    tryWheels,
    fault,
    take,
    setBody,
    drop,
  };
}

export type FormWork = ReturnType<typeof useFormWork>;
