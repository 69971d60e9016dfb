import { Link } from 'react-router';
import type { Plan } from '../api/client';
import { Trouble } from '../api/Trouble';
import type { BuildTools } from '../api/useBuild';
import classes from './BuildScreen.module.css';

interface UnplannedProps {
  plan: Plan;
  trouble: NonNullable<Plan['trouble']>;
  tools: BuildTools;
}

/** A build from which nothing follows: what is wrong with it, and the ways out. */
export function Unplanned({ plan, trouble, tools }: UnplannedProps) {
  const { state, undo } = tools;
  return (
    <main className={classes.wait}>
      <h1>{plan.name}</h1>
      <p role="alert">
        Nothing can be planned from it as it is stored: {trouble.reason}; {trouble.remedy} ({trouble.field}).
      </p>
      <Trouble error={undo.error} />
      <p>
        <button
          type="button"
          className="word"
          onClick={() => undo.mutate()}
          disabled={undo.isPending || (state.data?.revision ?? 0) < 2}
        >
          Take the last change back
        </button>{' '}
        <a className={classes.link} href={`/api/builds/${plan.build}/export`} download>
          Export it
        </a>{' '}
        <Link className={classes.link} to="/">
          Home: all builds
        </Link>
      </p>
    </main>
  );
}
