import { NumberInput } from '@mantine/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { words } from '../api/client';
import { clock } from '../clock';
import { Why } from '../why/Why';
import classes from './Shelf.module.css';
import type { ShelfRoomProps } from './said';
import { useShopping } from './useShelf';

/** What all open steps want that is not on the shelf, the first that is short first. */
export function ShoppingRoom({ tools, shelf }: ShelfRoomProps) {
  const list = useShopping();
  const [days, setDays] = useState<number | string>(shelf.shelf.deliveryDays ?? 0);
  const s = list.data;
  return (
    <section aria-label="Shopping" className={classes.shopping}>
      {list.error && (
        <p role="alert" className="trouble">
          {words(list.error)}
        </p>
      )}
      <div className={classes.row}>
        <NumberInput
          label="An order takes, days"
          w={150}
          min={0}
          max={365}
          value={days}
          onChange={setDays}
          onBlur={() =>
            Number(days) !== (shelf.shelf.deliveryDays ?? 0) &&
            tools.edit.mutate([{ op: 'delivery', days: Number(days) }])
          }
        />
        <span className={classes.gap} />
        <a className="word" href="/api/shelf/shopping.pdf" target="_blank" rel="noreferrer">
          Print
        </a>
        <a className="word" href="/api/shelf/shopping.csv" download>
          CSV
        </a>
      </div>
      {s && (
        <p className={classes.mute}>
          {s.buy.length === 0
            ? 'Nothing is missing: the shelf holds what all open steps want.'
            : `${s.buy.length} ${s.buy.length === 1 ? 'thing is' : 'things are'} short; ` +
              `of ${s.enough} there is enough for all that is planned.`}
        </p>
      )}
      <ol className={classes.buys}>
        {s?.buy.map((b) => (
          <li key={(b.pot ?? '') + b.name} className={classes.buy}>
            <svg width="44" height="44" aria-hidden="true">
              <rect width="44" height="44" fill={b.hex || 'var(--plastic)'} stroke="var(--ink)" />
            </svg>
            <div>
              <h2>
                {b.jars ? `${b.jars} × ` : ''}
                {b.name}
              </h2>
              <p>
                <Why why={b.why} name={`Short of ${b.name}`}>
                  {b.shortMl.toFixed(1)} ml short
                </Why>
                : {b.wantedMl.toFixed(1)} ml wanted, {b.leftMl.toFixed(1)} ml left
              </p>
              <p className={classes.mute}>
                {b.pot ? '' : 'No jar is named for it. '}
                First for{' '}
                <Link to={`/builds/${b.first.build}`}>
                  {b.first.title}, {b.first.name}
                </Link>
                {b.first.at ? `, ${clock(b.first.at)}` : ''}
                {b.uses.length > 1 ? `; ${b.uses.length} steps in all` : ''}
              </p>
            </div>
            <div className={classes.order} data-late={b.late || undefined}>
              {b.arrives ? (
                <p>On order, arrives {b.arrives}</p>
              ) : b.lastOrder ? (
                <p>
                  {b.late ? `Too late to order in time: ${b.lastOrder} was the last day` : `Order by ${b.lastOrder}`}
                </p>
              ) : null}
              {b.like.length > 0 && (
                <p className={classes.mute}>
                  or {b.like.map((l) => (l.hex ? `${l.name} (ΔE00 ${l.difference.toFixed(1)})` : l.name)).join(', ')}
                </p>
              )}
            </div>
          </li>
        ))}
      </ol>
    </section>
  );
}
