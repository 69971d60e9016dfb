import { Button, Modal, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { Refusal, type Start, words } from '../api/client';
import { outlineChoices } from '../form/BodyRoom';

const empty: Start = { name: '', outline: 'tracked', scale: '1:35', length: '', width: '', height: '' };

const fields: { key: 'name' | 'scale' | 'length' | 'width' | 'height'; label: string; hint: string }[] = [
  { key: 'name', label: 'Name', hint: 'the vehicle, or what you call this build' },
  { key: 'scale', label: 'Scale', hint: '1:35' },
  { key: 'length', label: 'Real hull length, without the gun', hint: '6.4 m or 21 ft 2 in' },
  { key: 'width', label: 'Real width', hint: '3.1 m' },
  { key: 'height', label: 'Real height', hint: '2.5 m' },
];

interface NewBuildProps {
  opened: boolean;
  onClose: () => void;
  onStart: (start: Start) => void;
  busy: boolean;
  error: unknown;
}

/** Five answers make a build with drawing, stack and plan. */
export function NewBuild({ opened, onClose, onStart, busy, error }: NewBuildProps) {
  const [start, setStart] = useState(empty);
  const field = error instanceof Refusal ? error.problem.field : undefined;
  return (
    <Modal opened={opened} onClose={onClose} title="New build" size="md">
      <form
        style={{ display: 'grid', gap: 12 }}
        onSubmit={(e) => {
          e.preventDefault();
          onStart(start);
        }}
      >
        <Select
          label="Outline to start from"
          value={start.outline}
          allowDeselect={false}
          onChange={(outline) => outline && setStart({ ...start, outline: outline as Start['outline'] })}
          data={outlineChoices}
        />
        {fields.map((f, i) => (
          <TextInput
            key={f.key}
            label={f.label}
            placeholder={f.hint}
            value={start[f.key]}
            data-autofocus={i === 0 || undefined}
            onChange={(e) => setStart({ ...start, [f.key]: e.currentTarget.value })}
            error={field === f.key ? words(error) : undefined}
          />
        ))}
        {error !== null && !fields.some((f) => f.key === field) && <p role="alert">{words(error)}</p>}
        <Button type="submit" loading={busy}>
          Start the build
        </Button>
      </form>
    </Modal>
  );
}
