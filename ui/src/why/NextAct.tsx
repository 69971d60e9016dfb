import type { Plan } from '../api/client';
import { Why } from './Why';

/** What is to be done next in plain words; why it is, where there is a reason. */
export function NextAct({ stand }: { stand: Plan['stand'] }) {
  return stand.why ? (
    <Why name="The next act" why={stand.why}>
      {stand.act}
    </Why>
  ) : (
    stand.act
  );
}
