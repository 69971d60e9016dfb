import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { api, ask, words } from '../api/client';
import { Why } from '../why/Why';
import classes from './Rule.module.css';

/** One line that turns any length into the build's scale and back. Key: slash. */
export function Rule({ scale }: { scale: string }) {
  const [text, setText] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const answer = useMutation({
    mutationFn: (q: string) => ask(api.POST('/api/calc/length', { body: { text: q, scale } })),
  });
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
  return (
    <form
      className={classes.rule}
      aria-label="The rule"
      onSubmit={(e) => {
        e.preventDefault();
        answer.mutate(text);
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
        placeholder="7.12 m, 23 ft 4 in, 28mm …"
        autoComplete="off"
        onChange={(e) => setText(e.target.value)}
      />
      <output className={classes.answer} htmlFor="rule">
        {answer.error ? (
          <span role="alert">{words(answer.error)}</span>
        ) : answer.data ? (
          <>
            <span className="real">
              {answer.data.real} ({answer.data.imperial}) real
            </span>
            <span className={classes.arrow}>→</span>
            <Why why={answer.data.why} name="On the model">
              <span className="model">{answer.data.model}</span>
            </Why>
            <span>at {answer.data.scale}</span>
            <span className="real">· measured on the model: {answer.data.fullOfModel}</span>
            {answer.data.near.slice(0, 2).map((n) => (
              <span key={n} className={classes.near}>
                {n}
              </span>
            ))}
          </>
        ) : (
          <span className={classes.near}>Type a real length and press Enter: it is read at {scale}, both ways.</span>
        )}
      </output>
    </form>
  );
}
