import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import classes from './Measure.module.css';

interface CellProps {
  label: string;
  value: string;
  placeholder?: string;
  disabled?: boolean;
  align?: 'right';
  onTake: (text: string) => Promise<unknown>;
  onFocus?: () => void;
  /** Where Enter, up and down go: the same column of another row. */
  column?: string;
}

/** Moves to the cell of the same column in the next or previous row. */
export function step(from: HTMLElement, by: 1 | -1) {
  const column = from.dataset.column;
  const all = [...document.querySelectorAll<HTMLElement>(`[data-column="${column}"]:not(:disabled)`)];
  const next = all[all.indexOf(from) + by];
  next?.focus();
  if (next instanceof HTMLInputElement) {
    next.select();
  }
}

/** A cell of a sheet: taken on Enter or when left; Escape takes back what was typed. */
export function Cell({ label, value, placeholder, disabled, align, onTake, onFocus, column }: CellProps) {
  const [text, setText] = useState(value);
  const [bad, setBad] = useState(false);
  const kept = useRef(value);
  // Under way, or refused already: leaving the cell sends nothing twice; Enter tries again.
  const sent = useRef<string>(undefined);
  const refused = useRef<string>(undefined);
  useEffect(() => {
    // A newer value fills the cell only when nobody is typing in it.
    const mine = [kept.current, sent.current];
    setText((now) => (mine.includes(now) ? value : now));
    kept.current = value;
    sent.current = undefined;
    refused.current = undefined;
  }, [value]);
  const take = (again: boolean) => {
    const known = text === sent.current || (text === refused.current && !again);
    if (text.trim() !== kept.current.trim() && !known) {
      sent.current = text;
      onTake(text.trim()).then(
        () => setBad(false),
        () => {
          sent.current = undefined;
          refused.current = text;
          setBad(true);
        },
      );
    }
  };
  const keys = (e: KeyboardEvent<HTMLInputElement>) => {
    if (e.key === 'Escape') {
      setText(value);
      setBad(false);
    }
    const by = e.key === 'ArrowUp' || (e.key === 'Enter' && e.shiftKey) ? -1 : 1;
    if (['Enter', 'ArrowUp', 'ArrowDown'].includes(e.key)) {
      e.preventDefault();
      const from = e.currentTarget;
      take(true);
      step(from, by);
    }
  };
  return (
    <input
      className={classes.cell}
      aria-label={label}
      aria-invalid={bad || undefined}
      data-align={align}
      data-column={column}
      value={text}
      placeholder={placeholder}
      disabled={disabled}
      autoComplete="off"
      onChange={(e) => setText(e.target.value)}
      onKeyDown={keys}
      onBlur={() => take(false)}
      onFocus={onFocus}
    />
  );
}
