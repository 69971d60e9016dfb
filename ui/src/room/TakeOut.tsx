interface TakeOutProps {
  /** What is taken out, by name. */
  what: string;
  /** In a row of a table a sign has room, words have not. */
  inRow?: boolean;
  onTake: () => void;
}

/** Takes something out of what it belongs to: the same words and sign everywhere. */
export function TakeOut({ what, inRow, onTake }: TakeOutProps) {
  return (
    <button type="button" className="word" aria-label={`Take out ${what}`} onClick={onTake}>
      {inRow ? '−' : 'take out'}
    </button>
  );
}
