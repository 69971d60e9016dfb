import { Button, FileButton, Menu, Modal, TextInput } from '@mantine/core';
import { IconDots } from '@tabler/icons-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { type Home, Refusal, type Restored, words } from '../api/client';
import { seeking } from '../api/provisional';
import { LightSwitch } from '../LightSwitch';
import { pictureUrl } from '../plate/usePlate';
import { Rule } from '../rule/Rule';
import { NextAct } from '../why/NextAct';
import classes from './HomeScreen.module.css';
import { NewBuild } from './NewBuild';
import { Shared } from './Pairing';
import { Tonight } from './Tonight';
import { useHome } from './useHome';

type Line = Home['builds'][number];

const counted = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`;

/** What came in, in a sentence. */
function came({ builds, files, workshop }: Restored): string {
  const copies = builds.filter((b) => b.copied).length;
  const shown = files > 0 ? `, with ${counted(files, 'file')} of pictures and meshes` : '';
  return [
    `${counted(builds.length, 'build')} came in${shown}.`,
    copies > 0 ? `${copies === 1 ? 'One was' : `${copies} were`} here already and came as a copy.` : '',
    workshop ? 'Hours, stock and tools came with them.' : '',
    !workshop && files > 0 ? 'Hours, stock and tools are those that were here.' : '',
  ]
    .filter(Boolean)
    .join(' ');
}

export function HomeScreen() {
  const { home, start, duplicate, remove, restore, rename, rank, take, gone } = useHome();
  const [making, setMaking] = useState(false);
  const [removed, setRemoved] = useState<Line>();
  const [naming, setNaming] = useState<{ line: Line; name: string }>();
  const navigate = useNavigate();
  const trouble = home.error ?? duplicate.error ?? remove.error ?? restore.error ?? rank.error ?? take.error;
  return (
    <div className={classes.screen}>
      <header className={classes.head}>
        <h1>Cinder Path</h1>
        <span className={classes.bench}>{home.data?.name}</span>
        {home.data?.provisional && (
          <span role="status" className={classes.bench}>
            {seeking}
          </span>
        )}
        <span className={classes.gap} />
        <Link className="word" to="/shelf" title="Jars, mixes and what is missing">
          Shelf
        </Link>
        <FileButton onChange={(file) => file && take.mutate(file)} accept="application/json,application/zip,.json,.zip">
          {(props) => (
            <button type="button" className="word" title="A build as JSON, or a back-up of everything" {...props}>
              Bring in
            </button>
          )}
        </FileButton>
        <a className="word" href="/api/archive" download title="Builds, logs, photographs, hours and stock in one file">
          Back up
        </a>
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
        {gone !== undefined && <p role="status">The back-up is being read: {Math.round(gone * 100)} % is there.</p>}
        {take.data && <p role="status">{came(take.data)}</p>}
        {removed && (
          <p role="status" className={classes.undo}>
            {removed.glance.name} was removed.{' '}
            <button
              type="button"
              className="word"
              onClick={() => {
                restore.mutate(removed.glance.build);
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
        {home.data && home.data.builds.length > 0 && <Tonight tonight={home.data.tonight} />}
        {home.data?.builds.map((line, i, all) => {
          const { glance } = line;
          return (
            <article key={glance.build} className={classes.line} aria-label={glance.name}>
              <Link to={`/builds/${glance.build}`} className={classes.picture} aria-label={`Open ${glance.name}`}>
                <Side glance={glance} />
              </Link>
              <div className={classes.words}>
                <h2>
                  <Link to={`/builds/${glance.build}`}>{glance.name}</Link>{' '}
                  <span className={classes.scale}>{glance.scale}</span>
                </h2>
                <Beads glance={glance} />
                {glance.trouble ? (
                  <p role="alert" className={classes.act}>
                    Nothing can be planned from it: {glance.trouble.reason}; {glance.trouble.remedy}.
                  </p>
                ) : (
                  <>
                    <p className={classes.act}>
                      <NextAct stand={glance.stand} />
                    </p>
                    <p className={classes.mute}>{inShort(glance)}</p>
                  </>
                )}
              </div>
              <div className={classes.acts}>
                <Button component={Link} to={`/builds/${glance.build}/bench`} variant="outline">
                  To the bench
                </Button>
                <Menu position="bottom-end" shadow="none" radius={1}>
                  <Menu.Target>
                    <Button variant="subtle" px={8} aria-label={`More for ${glance.name}`}>
                      <IconDots size={18} />
                    </Button>
                  </Menu.Target>
                  <Menu.Dropdown>
                    <Menu.Item onClick={() => setNaming({ line, name: glance.name })}>Rename</Menu.Item>
                    <Menu.Item
                      disabled={i === 0}
                      onClick={() => rank.mutate({ id: glance.build, revision: line.revision, first: true })}
                    >
                      Work on it first
                    </Menu.Item>
                    <Menu.Item
                      disabled={i === all.length - 1}
                      onClick={() => rank.mutate({ id: glance.build, revision: line.revision, first: false })}
                    >
                      Let it wait for the others
                    </Menu.Item>
                    <Menu.Item onClick={() => duplicate.mutate(glance.build)}>Duplicate</Menu.Item>
                    <Menu.Item component={Link} to={`/builds/${glance.build}/diary`}>
                      Diary
                    </Menu.Item>
                    <Menu.Item component="a" href={`/api/builds/${glance.build}/export`} download>
                      Export
                    </Menu.Item>
                    <Menu.Item
                      onClick={() => {
                        remove.mutate(glance.build);
                        setRemoved(line);
                      }}
                    >
                      Remove
                    </Menu.Item>
                  </Menu.Dropdown>
                </Menu>
              </div>
            </article>
          );
        })}
        <Shared />
      </main>
      <Rule scale={home.data?.builds[0]?.glance.scale ?? '1:35'} />
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
                { id: naming.line.glance.build, revision: naming.line.revision, name: naming.name },
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
function Side({ glance }: { glance: Line['glance'] }) {
  const { picture, look, build } = glance;
  if (!look || picture.width <= 0 || picture.height <= 0) {
    return null;
  }
  const px = Math.min(width / picture.width, height / picture.height);
  const sharp = Number((px * Math.min(window.devicePixelRatio, 2)).toFixed(3));
  return (
    <img
      src={pictureUrl(build, look, picture.side, sharp)}
      width={Math.round(picture.width * px)}
      height={Math.round(picture.height * px)}
      alt={`${glance.name} as it stands`}
    />
  );
}

/** The room for a picture, points. */
const width = 300;
const height = 140;

const inShort = (g: Line['glance']) =>
  [
    `${g.stand.done} of ${g.stand.total} steps done`,
    g.drying.length > 0 ? `drying: ${g.drying.join(', ')}` : '',
    g.ready > 0 ? `${g.ready} ready to do` : '',
    g.stand.ends ? `the last one laid on ${g.stand.ends}` : '',
    g.findings > 0 ? `${g.findings} ${g.findings === 1 ? 'finding' : 'findings'}` : '',
  ]
    .filter(Boolean)
    .join(' · ');

/** The whole path, one bead for each step. */
function Beads({ glance }: { glance: Line['glance'] }) {
  const { path, next } = glance;
  return (
    <svg
      className={classes.beads}
      viewBox={`0 0 ${path.length * 14} 12`}
      preserveAspectRatio="xMinYMid meet"
      aria-hidden="true"
    >
      <line x1="0" y1="6" x2={path.length * 14} y2="6" stroke="var(--mute)" />
      {path.map((status, i) => (
        <circle
          // biome-ignore lint/suspicious/noArrayIndexKey: a bead is its place on the path
          key={i}
          cx={i * 14 + 7}
          cy="6"
          r={i === next ? 5.2 : 4}
          fill={
            status === 'done'
              ? 'var(--ink)'
              : status === 'drying'
                ? 'var(--cold)'
                : i === next
                  ? 'var(--ember)'
                  : 'var(--ground)'
          }
          stroke={status === 'drying' ? 'var(--cold)' : 'var(--mute)'}
        />
      ))}
    </svg>
  );
}
