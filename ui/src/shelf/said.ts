import type { Jar, ShelfState } from '../api/client';
import type { ShelfTools } from './useShelf';

/** What each room of the shelf works on. */
export interface ShelfRoomProps {
  tools: ShelfTools;
  shelf: ShelfState;
}

/** A jar by number and name. */
export const said = (j: Jar) => (j.number ? `${String(j.number).padStart(2, '0')} ${j.name}` : j.name);
