import { Button, FileButton } from '@mantine/core';
import { useState } from 'react';
import { Trouble } from '../api/Trouble';
import type { BuildTools } from '../api/useBuild';
import classes from './Measure.module.css';
import { useReadSizes } from './useMeasure';

/** Rows from a spreadsheet: read at once, shown as understood, taken when one agrees. */
export function PasteSizes({ tools, onDone }: { tools: BuildTools; onDone: () => void }) {
  const [text, setText] = useState('');
  const read = useReadSizes();
  const [error, setError] = useState<unknown>();
  const look = (t: string) => {
    setText(t);
    setError(undefined);
    if (t.trim()) {
      read.mutate(t);
    } else {
      read.reset();
    }
  };
  const table = read.data;
  const take = () =>
    tools.edit.mutateAsync((table?.rows ?? []).map((dimension) => ({ op: 'dimension' as const, dimension }))).then(
      () => {
        if (!table?.faults.length) {
          onDone();
          return;
        }
        // What could not be read stays, to be mended here.
        const lines = text.split('\n');
        setText(table.faults.map((f) => lines[f.row - 1]).join('\n'));
        read.reset();
      },
      (e) => setError(e),
    );
  return (
    <div className={classes.paste}>
      <textarea
        className={classes.area}
        aria-label="Table of dimensions"
        rows={5}
        placeholder={'name, real size, kit size — from a spreadsheet, headings or not; Ctrl+Enter takes them'}
        value={text}
        onChange={(e) => look(e.target.value)}
        onKeyDown={(e) => e.key === 'Enter' && (e.ctrlKey || e.metaKey) && table?.rows.length && take()}
      />
      <div className={classes.headRow}>
        <FileButton accept=".csv,.tsv,.txt,text/csv" onChange={async (f) => f && look(await f.text())}>
          {(props) => (
            <button type="button" className="word" {...props}>
              Open a CSV file
            </button>
          )}
        </FileButton>
        <span className={classes.gap} />
        <Button size="xs" disabled={!table?.rows.length} onClick={take} loading={tools.edit.isPending}>
          {table?.rows.length ? `Take ${table.rows.length} ${table.rows.length === 1 ? 'row' : 'rows'}` : 'Take them'}
        </Button>
      </div>
      {table && (
        <div role="status">
          <p>
            {table.rows.length} {table.rows.length === 1 ? 'row' : 'rows'} read
            {table.faults.length > 0 && `, ${table.faults.length} not: they stay here when you take the others`}.
            Columns: {table.columns.map((c) => (c === 'kit' ? 'in the kit' : c === 'plusMinus' ? '±' : c)).join(', ')}.
          </p>
          <ul className={classes.faults}>
            {table.faults.map((f) => (
              <li key={f.row}>
                Row {f.row}, {f.field}: {f.reason}. To mend it: {f.remedy}.
              </li>
            ))}
          </ul>
        </div>
      )}
      <Trouble error={read.error ?? error} />
    </div>
  );
}
