import { useRef, useState } from 'react';
import { api, ask, type Body, type BuildState, type Edit, type GearLine, type Wheel, words } from '../api/client';
import type { BuildTools } from '../api/useBuild';
import type { Point } from './project';

/** What a click on the plate puts there: a fitting, the zone of an imported face, bolts or a weld. */
export interface Placing {
  op: 'addFitting' | 'nameFace' | 'small';
  what: string;
  small?: Edit['small'];
  /** Where a line begins that is to be ended. */
  from?: Edit['place'];
}

/** What is being shaped: the part and its points while they are dragged, the wheels while
 * one is moved with what the track would take, and what was refused. */
export function useFormWork(tools: BuildTools, data: BuildState | undefined) {
  const [part, choose] = useState<string>();
  const [placing, setPlacing] = useState<Placing>();
  const [wheel, setWheel] = useState<number>();
  const [step, setStep] = useState(10);
  const [ghost, setGhost] = useState<{ part: string; side: string; point?: number; points: Point[] }>();
  const [wheels, setWheels] = useState<Wheel[]>();
  const [live, setLive] = useState<GearLine>();
  const [fault, tell] = useState<string>();
  const faults = useRef(0);
  const setFault = (words?: string) => {
    faults.current += words ? 1 : 0;
    tell(words);
  };
  const [left, setLeft] = useState(0);
  const asking = useRef(false);
  const latest = useRef<Wheel[]>(undefined);

  const drop = () => {
    setWheels(undefined);
    setLive(undefined);
    setGhost(undefined);
    setFault(undefined);
  };

  /** All is as it was before what was refused: fields too, which are made anew by this count. */
  const leave = () => {
    drop();
    setLeft(left + 1);
  };

  const take = async (edits: Edit[]) => {
    const before = faults.current;
    try {
      await tools.edit.mutateAsync(edits);
      if (faults.current === before) {
        drop(); // what was refused meanwhile stays told
      }
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
  /** Reads where something lies as it was typed, in any unit; what cannot be read is told. */
  const place = async (text: string) => {
    try {
      return (await ask(api.POST('/api/calc/place', { body: { text } }))).mm;
    } catch (e) {
      setFault(words(e));
      throw e;
    }
  };
  const setPart = (id?: string) => {
    choose(id);
    setPlacing(undefined);
    setGhost(undefined);
    setFault(undefined);
  };
  return {
    part,
    setPart,
    wheel,
    setWheel,
    placing,
    setPlacing,
    place,
    tell: setFault,
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
    leave,
    left,
  };
}

export type FormWork = ReturnType<typeof useFormWork>;
