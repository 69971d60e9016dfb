import { Link, useNavigate, useParams } from 'react-router';
import { words } from '../api/client';
import { LightSwitch } from '../LightSwitch';
import { Rule } from '../rule/Rule';
import { CupRoom } from './CupRoom';
import { JarsRoom } from './JarsRoom';
import { MixRoom } from './MixRoom';
import classes from './Shelf.module.css';
import { ShoppingRoom } from './ShoppingRoom';
import { useShelf } from './useShelf';

const rooms = [
  { id: 'jars', name: 'Jars' },
  { id: 'mix', name: 'Mix a colour' },
  { id: 'cup', name: 'Mend the cup' },
  { id: 'shopping', name: 'Shopping' },
];

/** All that one can paint with: the jars, what is mixed of them, and what is missing. */
export function ShelfScreen() {
  const room = useParams().room ?? 'jars';
  const navigate = useNavigate();
  const tools = useShelf();
  const { state } = tools;
  return (
    <div className={classes.screen}>
      <header className={classes.head}>
        <h1>
          <Link to="/">Cinder Path</Link>
        </h1>
        <nav aria-label="Shelf" className={classes.rooms}>
          {rooms.map((r) => (
            <button
              key={r.id}
              type="button"
              className="word"
              aria-current={r.id === room ? 'page' : undefined}
              onClick={() => navigate(`/shelf/${r.id}`)}
            >
              {r.name}
            </button>
          ))}
        </nav>
        <span className={classes.gap} />
        <Link className="word" to="/">
          Builds
        </Link>
        <LightSwitch />
      </header>
      <main className={classes.main}>
        {state.error && (
          <p role="alert" className="trouble">
            {words(state.error)}
          </p>
        )}
        {state.data && room === 'jars' && <JarsRoom tools={tools} shelf={state.data} />}
        {state.data && room === 'mix' && <MixRoom tools={tools} shelf={state.data} />}
        {state.data && room === 'cup' && <CupRoom tools={tools} shelf={state.data} />}
        {state.data && room === 'shopping' && <ShoppingRoom tools={tools} shelf={state.data} />}
      </main>
      <Rule scale="1:35" />
    </div>
  );
}
