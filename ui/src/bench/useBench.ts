import { useCallback, useEffect, useRef, useState } from 'react';
import type { NewEntry, Step, Timer } from '../api/client';

/** What was ticked, read and counted at a step before it is done: kept through a reload. */
export interface Jotted {
  checks: string[];
  measured: { name: string; value: string }[];
  left?: number;
  right?: number;
  used?: Record<string, number>; // ml by jar, where it was not as planned
}

const blank: Jotted = { checks: [], measured: [] };

/** What a step took of its jars: as planned, where nothing else was said. */
function usedAt(step: Step, said: Record<string, number> = {}): Partial<NewEntry> {
  const used = step.needs.flatMap((n) =>
    n.pot ? [{ pot: n.pot, ml: said[n.pot] ?? Math.round(n.ml * 100) / 100 }] : [],
  );
  return used.length > 0 ? { used } : {};
}

export function useJotted(key: string) {
  const store = `bench ${key}`;
  const read = useCallback((): Jotted => {
    try {
      return { ...blank, ...JSON.parse(localStorage.getItem(store) ?? '{}') };
    } catch {
      return blank;
    }
  }, [store]);
  const [jotted, setJotted] = useState<{ key: string; value: Jotted }>(() => ({ key: store, value: read() }));
  const now = jotted.key === store ? jotted.value : read();
  const set = (by: Partial<Jotted>) => {
    const value = { ...now, ...by };
    localStorage.setItem(store, JSON.stringify(value));
    setJotted({ key: store, value });
  };
  const drop = () => {
    localStorage.removeItem(store);
    setJotted({ key: store, value: blank });
  };
  const entry = (step: Step): Partial<NewEntry> => ({
    ...usedAt(step, now.used),
    ...(now.checks.length ? { checks: now.checks } : {}),
    ...(now.measured.length ? { measured: now.measured } : {}),
    ...(now.left !== undefined || now.right !== undefined
      ? { coats: { left: now.left ?? 0, right: now.right ?? 0 } }
      : {}),
  });
  return { jotted: now, set, drop, entry };
}

/** Seconds go by. */
export function useNow(): number {
  const [now, setNow] = useState(Date.now());
  useEffect(() => {
    const tick = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(tick);
  }, []);
  return now;
}

/** How long before a window closes it is told, seconds. */
export const warning = 180;

/** Rings when a timer ends, and before a window closes; each once, also after a reload. */
export function useRinging(timers: Timer[], now: number) {
  const sound = useRef<AudioContext | undefined>(undefined);
  const [rung, setRung] = useState<string>();
  useEffect(() => {
    for (const t of timers) {
      const left = (Date.parse(t.at) - now) / 1000;
      const what = left <= 0 ? 'over' : t.kind === 'closes' && left <= warning ? 'soon' : undefined;
      const key = `rung ${t.build} ${t.task} ${t.kind} ${t.at} ${what}`;
      if (!what || left < -120 || sessionStorage.getItem(key)) {
        continue;
      }
      sessionStorage.setItem(key, '1');
      const words = what === 'soon' ? `${t.title}: 3 minutes until its window closes` : `${t.title}: ${t.words}`;
      setRung(words);
      beep(sound.current);
      if ('Notification' in window && Notification.permission === 'granted') {
        new Notification('Cinder Path', { body: words });
      }
    }
  }, [timers, now]);
  /** Sound and notifications are allowed by a person's hand only. */
  const allow = () => {
    sound.current = new AudioContext();
    beep(sound.current);
    if ('Notification' in window && Notification.permission === 'default') {
      void Notification.requestPermission();
    }
  };
  return { allow, rung, hush: () => setRung(undefined) };
}

function beep(audio?: AudioContext) {
  if (!audio) {
    return;
  }
  const tone = audio.createOscillator();
  const level = audio.createGain();
  tone.frequency.value = 740;
  level.gain.setValueAtTime(0.18, audio.currentTime);
  level.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + 0.8);
  tone.connect(level).connect(audio.destination);
  tone.start();
  tone.stop(audio.currentTime + 0.8);
}

export function counted(t: Timer, now: number): string {
  const s = Math.max(0, Math.round((Date.parse(t.at) - now) / 1000));
  const h = Math.floor(s / 3600);
  if (h >= 48) {
    return `${Math.round(h / 24)} days`;
  }
  const two = (n: number) => String(n).padStart(2, '0');
  return h > 0
    ? `${h}:${two(Math.floor((s % 3600) / 60))}:${two(s % 60)}`
    : `${two(Math.floor(s / 60))}:${two(s % 60)}`;
}
