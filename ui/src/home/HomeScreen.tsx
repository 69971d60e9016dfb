import { Button, FileButton, Menu, Modal, TextInput } from '@mantine/core';
import { IconDots } from '@tabler/icons-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { type Home, Refusal, words } from '../api/client';
import { LightSwitch } from '../LightSwitch';
import { coatAt, Plate } from '../plate';
import { Rule } from '../rule/Rule';
import classes from './HomeScreen.module.css';
import { NewBuild } from './NewBuild';
import { Tonight } from './Tonight';
import { useHome } from './useHome';

type Line = Home['builds'][number];

export function HomeScreen() {
  const { home, start, duplicate, remove, restore, rename, rank, take } = useHome();
  const [making, setMaking] = useState(false);
  const [removed, setRemoved] = useState<Line>();
  const [naming, setNaming] = useState<{ line: Line; name: string }>();
  const navigate = useNavigate();
  const trouble = home.error ?? duplicate.error ?? remove.error ?? restore.error ?? rank.error ?? take.error;
  return (
    <div className={classes.screen}>
      <header className={classes.head}>
        <h1>Cinder Path</h1>
        <span className={classes.bench}>{home.data?.workshop.name}</span>
        <span className={classes.gap} />
        <FileButton onChange={(file) => file && take.mutate(file)} accept="application/json">
          {(props) => (
            <button type="button" className="word" {...props}>
              Import
            </button>
          )}
        </FileButton>
        <LightSwitch />
        <Button onClick={() => setMaking(true)}>New build</Button>
      </header>
      <main className={classes.main}>
        {trouble && (
          <p role="alert" className={classes.trouble}>
            {trouble instanceof Refusal
              ? words(trouble)
              : 'That file is not readable JSON. Export a build to see how it must look.'}
          </p>
        )}
        {removed && (
          <p role="status" className={classes.undo}>
            {removed.plan.name} was removed.{' '}
            <button
              type="button"
              className="word"
              onClick={() => {
                restore.mutate(removed.plan.build);
                setRemoved(undefined);
              }}
            >
              Bring it back
            </button>
          </p>
        )}
        {home.data?.builds.length === 0 && (
          <p className={classes.empty}>
            No build yet. Type a vehicle's real size and its scale, and its kit sizes, drawing and plan follow.
          </p>
        )}
        {(home.data?.builds.length ?? 0) > 0 && <Tonight />}
        {home.data?.builds.map((line, i, all) => (
          <article key={line.plan.build} className={classes.line} aria-label={line.plan.name}>
            <Link to={`/builds/${line.plan.build}`} className={classes.picture} aria-label={`Open ${line.plan.name}`}>
              <Side line={line} />
            </Link>
            <div className={classes.words}>
              <h2>
                <Link to={`/builds/${line.plan.build}`}>{line.plan.name}</Link>{' '}
                <span className={classes.scale}>{line.plan.scale}</span>
              </h2>
              <Beads line={line} />
              <p className={classes.act}>{line.plan.stand.act}</p>
              <p className={classes.mute}>
                {line.plan.stand.done} of {line.plan.stand.total} steps done
                {line.plan.stand.ends ? `, the last one laid on ${line.plan.stand.ends}` : ''}
                {line.plan.findings.length > 0 ? `, ${line.plan.findings.length} findings` : ''}
              </p>
            </div>
            <div className={classes.acts}>
              <Button component={Link} to={`/builds/${line.plan.build}/bench`} variant="outline">
                To the bench
              </Button>
              <Menu position="bottom-end" shadow="none" radius={1}>
                <Menu.Target>
                  <Button variant="subtle" px={8} aria-label={`More for ${line.plan.name}`}>
                    <IconDots size={18} />
                  </Button>
                </Menu.Target>
                <Menu.Dropdown>
                  <Menu.Item onClick={() => setNaming({ line, name: line.plan.name })}>Rename</Menu.Item>
                  <Menu.Item
                    disabled={i === 0}
                    onClick={() =>
                      rank.mutate({
                        id: line.plan.build,
                        revision: line.revision,
                        priority: (all[0]?.priority ?? 0) - 1,
                      })
                    }
                  >
                    Work on it first
                  </Menu.Item>
                  <Menu.Item
                    disabled={i === all.length - 1}
                    onClick={() =>
                      rank.mutate({
                        id: line.plan.build,
                        revision: line.revision,
                        priority: (all.at(-1)?.priority ?? 0) + 1,
                      })
                    }
                  >
                    Let it wait for the others
                  </Menu.Item>
                  <Menu.Item onClick={() => duplicate.mutate(line.plan.build)}>Duplicate</Menu.Item>
                  <Menu.Item component={Link} to={`/builds/${line.plan.build}/diary`}>
                    Diary
                  </Menu.Item>
                  <Menu.Item component="a" href={`/api/builds/${line.plan.build}/export`} download>
                    Export
                  </Menu.Item>
                  <Menu.Item
                    onClick={() => {
                      remove.mutate(line.plan.build);
                      setRemoved(line);
                    }}
                  >
                    Remove
                  </Menu.Item>
                </Menu.Dropdown>
              </Menu>
            </div>
          </article>
        ))}
      </main>
      <Rule scale={home.data?.builds[0]?.plan.scale ?? '1:35'} />
      <NewBuild
        opened={making}
        onClose={() => setMaking(false)}
        busy={start.isPending}
        error={start.error}
        onStart={(body) => start.mutate(body, { onSuccess: (made) => navigate(`/builds/${made.build.id}`) })}
      />
      <Modal opened={naming !== undefined} onClose={() => setNaming(undefined)} title="Rename">
        {naming && (
          <form
            onSubmit={(e) => {
              e.preventDefault();
              rename.mutate(
                { id: naming.line.plan.build, revision: naming.line.revision, name: naming.name },
                { onSuccess: () => setNaming(undefined) },
              );
            }}
          >
            <TextInput
              label="Name of the build"
              value={naming.name}
              onChange={(e) => setNaming({ ...naming, name: e.currentTarget.value })}
              error={rename.error ? words(rename.error) : undefined}
              data-autofocus
            />
            <Button type="submit" mt="sm" loading={rename.isPending}>
              Rename
            </Button>
          </form>
        )}
      </Modal>
    </div>
  );
}

/** The left side alone, as it looks where the build stands. */
function Side({ line }: { line: Line }) {
  const view = line.plan.views.find((v) => v.side === 'left');
  if (!view) {
    return null;
  }
  const alone = {
    ...line.plan,
    views: [{ ...view, x: 0, y: 0, dimensions: undefined }],
    sheet: { width: view.width, height: view.height },
  };
  const at = line.plan.steps.findIndex((s) => s.id === line.plan.stand.next);
  return (
    <Plate
      plan={alone}
      coat={coatAt(line.plan, at < 0 ? line.plan.steps.length : at)}
      marked={[]}
      onZone={() => {}}
      bare
    />
  );
}

function Beads({ line }: { line: Line }) {
  const { steps } = line.plan;
  return (
    <svg
      className={classes.beads}
      viewBox={`0 0 ${steps.length * 14} 12`}
      preserveAspectRatio="xMinYMid meet"
      aria-hidden="true"
    >
      <line x1="0" y1="6" x2={steps.length * 14} y2="6" stroke="var(--mute)" />
      {steps.map((s, i) => (
        <circle
          key={s.id}
          cx={i * 14 + 7}
          cy="6"
          r={s.id === line.plan.stand.next ? 5.2 : 4}
          fill={
            s.status === 'done'
              ? 'var(--ink)'
              : s.status === 'drying'
                ? 'var(--cold)'
                : s.id === line.plan.stand.next
                  ? 'var(--ember)'
                  : 'var(--ground)'
          }
          stroke={s.status === 'drying' ? 'var(--cold)' : 'var(--mute)'}
        />
      ))}
    </svg>
  );
}
