import { Button, TextInput } from '@mantine/core';
import { type ReactNode, useState } from 'react';
import { words } from '../api/client';
import classes from './HomeScreen.module.css';
import { useSharing } from './useSharing';

/** Asks a device that is not the workshop's own for the code that is shown there. */
export function Gate({ children }: { children: ReactNode }) {
  const { pair, shut } = useSharing();
  const [code, setCode] = useState('');
  if (!shut) {
    return children;
  }
  return (
    <main className={classes.pairing}>
      <h1>Cinder Path</h1>
      <p>This device is not part of the workshop yet. Type the code that its own machine shows on the first page.</p>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          pair.mutate(code);
        }}
      >
        <TextInput
          label="Code"
          value={code}
          autoComplete="off"
          onChange={(e) => setCode(e.currentTarget.value)}
          error={pair.error ? words(pair.error) : undefined}
        />
        <Button type="submit" disabled={!code.trim()} loading={pair.isPending}>
          Let this device in
        </Button>
      </form>
    </main>
  );
}

/** On the workshop's own machine: where other devices find it, and the code that lets one in. */
export function Shared() {
  const { sharing, unpair } = useSharing();
  const told = sharing.data;
  if (!told?.on || !told.code) {
    return null;
  }
  return (
    <section aria-label="Other devices" className={classes.shared}>
      <p>
        A phone or tablet on this network finds the workshop at <strong>{told.addresses.join(' or ')}</strong> and is
        let in by the code <strong data-code>{told.code}</strong>, once.
      </p>
      <p>
        {told.devices === 0 ? 'No other device is let in.' : `Let in: ${told.devices}.`}{' '}
        {told.devices > 0 && (
          <button type="button" className="word" onClick={() => unpair.mutate()}>
            forget them
          </button>
        )}
      </p>
    </section>
  );
}
