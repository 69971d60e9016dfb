import { useState } from 'react';
import classes from './Measure.module.css';
import { Need } from './Need';
import { StockTable } from './StockTable';

/** What a size is made from, and the table it is looked up in. */
export function StockRoom({ scale }: { scale: string }) {
  const [view, setView] = useState<'need' | 'table'>('need');
  return (
    <section aria-label="Stock" className={classes.stack}>
      <div className={classes.headRow}>
        <button type="button" className={classes.tab} aria-pressed={view === 'need'} onClick={() => setView('need')}>
          What do I need?
        </button>
        <button type="button" className={classes.tab} aria-pressed={view === 'table'} onClick={() => setView('table')}>
          Table and what I own
        </button>
      </div>
      <div hidden={view !== 'need'}>
        <Need scale={scale} />
      </div>
      <div hidden={view !== 'table'}>
        <StockTable />
      </div>
    </section>
  );
}
