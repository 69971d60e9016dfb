import { Popover } from '@mantine/core';
import { type ReactNode, useState } from 'react';
import type { WhyText } from '../api/client';
import classes from './Why.module.css';

/** A number or an act that can be asked why: it answers with its formula and what went in, or
 * with its reason. */
export function Why({ why, name, children }: { why: WhyText | string; name: string; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover width={320} position="bottom-end" withinPortal opened={open} onChange={setOpen}>
      <Popover.Target>
        <button
          type="button"
          className={classes.number}
          aria-label={`${name}: why this number?`}
          onClick={() => setOpen(!open)}
          onKeyDown={(e) => {
            // The focus stays on the number, where the answer's own keys do not reach.
            if (open && e.key === 'Escape') {
              e.stopPropagation();
              setOpen(false);
            }
          }}
        >
          {children}
        </button>
      </Popover.Target>
      <Popover.Dropdown className={classes.answer}>
        <strong>{name}</strong>
        {typeof why === 'string' ? (
          <p>{why}</p>
        ) : (
          <>
            <code>{why.formula}</code>
            <ul>
              {why.inputs.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          </>
        )}
      </Popover.Dropdown>
    </Popover>
  );
}
