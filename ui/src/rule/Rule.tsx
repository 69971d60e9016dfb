import { useEffect, useRef, useState } from 'react';
import { words } from '../api/client';
import { Why } from '../why/Why';
import classes from './Rule.module.css';
import { useRule } from './useRule';

const past = 'cinder-rule';
const longest = 50;

const before = (): string[] => {
  try {
    const kept = JSON.parse(localStorage.getItem(past) ?? '[]');
    return Array.isArray(kept) ? kept.filter((x) => typeof x === 'string') : [];
  } catch {
    return [];
  }
};

interface RuleProps {
  scale: string;
  /** Puts the answer on the size sheet of the build that is open. */
  onSend?: (name: string, real: string) => Promise<void>;
}

/** What can be asked, for whoever asks nothing yet. */
const samples = [
  '3/8in',
  '0.5 → real',
  '1:35 → 1:48 42mm',
  'rope 28mm',
  'drill 18mm',
  'sheet 14mm',
  'mix 3x12 + 1x30',
  'like #rrggbb',
];

/** One line that answers lengths, stock, ropes, holes and other scales. Key: slash. */
export function Rule({ scale, onSend }: RuleProps) {
  const [text, setText] = useState('');
  const [asked, setAsked] = useState('');
  const [history, setHistory] = useState(before);
  const [back, setBack] = useState(-1);
  const [said, setSaid] = useState<string>();
  const input = useRef<HTMLInputElement>(null);
  const answer = useRule(scale);
  useEffect(() => {
    const reach = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName);
      if (e.key === '/' && !typing) {
        e.preventDefault();
        input.current?.focus();
        input.current?.select();
      }
    };
    window.addEventListener('keydown', reach);
    return () => window.removeEventListener('keydown', reach);
  }, []);
  const recall = (to: number) => {
    const at = Math.min(Math.max(to, -1), history.length - 1);
    setBack(at);
    setText(at < 0 ? '' : (history[at] ?? ''));
  };
  const submit = () => {
    const q = text.trim();
    if (!q) {
      return;
    }
    const next = [q, ...history.filter((h) => h !== q)].slice(0, longest);
    setHistory(next);
    setBack(-1);
    setSaid(undefined);
    setAsked(q);
    localStorage.setItem(past, JSON.stringify(next));
    answer.mutate(q);
  };
  const { data, error } = answer;
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(data?.copy ?? '');
      setSaid('Copied.');
    } catch {
      setSaid('This browser does not let pages copy; mark the answer by hand.');
    }
  };
  const send = async () => {
    if (data && onSend) {
      try {
        await onSend(`From the rule: ${asked}`, `${data.realMm} mm`);
        setSaid('It is on the size sheet.');
      } catch (e) {
        setSaid(words(e));
      }
    }
  };
  return (
    <form
      className={classes.rule}
      aria-label="The rule"
      onSubmit={(e) => {
        e.preventDefault();
        submit();
      }}
    >
      <label className={classes.label} htmlFor="rule">
        Rule <kbd>/</kbd>
      </label>
      <input
        id="rule"
        ref={input}
        className={classes.input}
        value={text}
        placeholder="7.12 m, rope 28mm …"
        autoComplete="off"
        onChange={(e) => {
          setText(e.target.value);
          setBack(-1);
        }}
        onKeyDown={(e) => {
          if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
            e.preventDefault();
            recall(back + (e.key === 'ArrowUp' ? 1 : -1));
          }
        }}
      />
      <output className={classes.answer} htmlFor="rule">
        {error ? (
          <span role="alert">{words(error)}</span>
        ) : data ? (
          <>
            {data.facts.map((f) => (
              <span key={`${f.name} ${f.value}`} className={classes.fact}>
                <span className={classes.near}>{f.name}</span>{' '}
                {f.value.startsWith('#') && (
                  <svg width="18" height="14" aria-hidden="true">
                    <rect width="18" height="14" fill={f.value} />
                  </svg>
                )}{' '}
                <Why why={f.why} name={f.name}>
                  <span className={f.of}>{f.value}</span>
                </Why>
              </span>
            ))}
            {data.notes.map((n) => (
              <span key={n} className={classes.near}>
                {n}
              </span>
            ))}
          </>
        ) : (
          <span className={classes.near}>
            At {scale}: {samples.join(' · ')}
          </span>
        )}
      </output>
      {data && !error && (
        <span className={classes.acts}>
          {said && <span role="status">{said}</span>}
          <button type="button" className="word" onClick={copy}>
            Copy
          </button>
          {onSend && data.realMm > 0 && (
            <button type="button" className="word" onClick={send}>
              To the size sheet
            </button>
          )}
        </span>
      )}
    </form>
  );
}
