import { Button, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schemas, words } from '../api/client';
import { useLibrary } from '../api/useLibrary';
import { pictureUrl } from '../plate/usePlate';
import type { RoomProps } from '../room/props';
import classes from '../room/room.module.css';
import own from './Core.module.css';

type Life = Schemas['NamedLife'];

/** Points to a millimetre of the pictures beside each other. */
const fine = 4;

/** Another life beside the one that is told: the same vehicle, both as they look at the end. */
export function Beside({ tools, data }: Pick<RoomProps, 'tools' | 'data'>) {
  const lives = useLibrary().data?.lives ?? [];
  const [name, setName] = useState<string>();
  const life = lives.find((l) => l.name === name);
  return (
    <>
      <Select
        label="Beside another story"
        placeholder="choose one to look at"
        clearable
        data={lives.map((l) => l.name)}
        value={name ?? null}
        onChange={(n) => setName(n ?? undefined)}
      />
      {life && <Other key={life.name} life={life} tools={tools} data={data} />}
    </>
  );
}

function Other({ life, tools, data }: Pick<RoomProps, 'tools' | 'data'> & { life: Life }) {
  const { build, plan } = data;
  const told = useQuery({
    queryKey: ['told', build.id, data.revision, life.name],
    queryFn: () =>
      ask(api.POST('/api/builds/{id}/told', { params: { path: { id: build.id } }, body: { life: life.life } })),
    retry: false,
  });
  if (told.error) {
    return (
      <p role="alert" className="trouble">
        {words(told.error)}
      </p>
    );
  }
  if (!told.data) {
    return <p role="status">Living it …</p>;
  }
  const { look, more, argued } = told.data;
  const now = plan.steps.at(-1)?.look ?? plan.bare;
  return (
    <section aria-label={`Beside: ${life.name}`} className={classes.worked}>
      <div className={own.two}>
        {[
          { look: now, title: 'as it is told' },
          { look, title: life.name },
        ].map((p) => (
          <figure key={p.title}>
            <img src={pictureUrl(build.id, p.look, 'left', fine)} alt={`${plan.name}, left side, ${p.title}`} />
            <figcaption>{p.title}</figcaption>
          </figure>
        ))}
      </div>
      <p className={classes.mute}>
        {Object.values(life.life).join(', ') || 'all as usual'};{' '}
        {Math.abs(more) < 1
          ? 'it takes as long'
          : `${Math.abs(more).toFixed(0)} min ${more > 0 ? 'more' : 'less'} of work`}
        .
      </p>
      <ul className={own.fates}>
        {argued.map((a) => (
          <li key={a.layer}>
            <strong>{a.name}</strong> <small>{a.words}</small>
          </li>
        ))}
      </ul>
      <Button
        size="xs"
        disabled={tools.edit.isPending}
        onClick={() => tools.edit.mutate([{ op: 'life', life: life.life }])}
      >
        Take this story
      </Button>
    </section>
  );
}
