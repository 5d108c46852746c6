const SIDES = ['CORNER', 'FRONT', 'RIGHT', 'TOP'];

interface Props {
  asked: URLSearchParams;
  /** Path of the part that is shown alone; empty for all. */
  part: string;
  onAll: () => void;
}

/** Where the second lies apart from the first, from four directions. */
export function ApartPictures({ asked, part, onAll }: Props) {
  return (
    <section className="pair-apart" aria-label="Where they lie apart">
      <p>
        Where they lie apart{part ? `: ${part}` : ''}. Pale is together, vermilion is the most.{' '}
        {part && (
          <button type="button" className="btn btn-link btn-sm p-0" onClick={onAll}>
            show all
          </button>
        )}
      </p>
      <div className="pair-pictures">
        {SIDES.map((from) => {
          const ask = new URLSearchParams(asked);
          ask.set('from', from);
          if (part) {
            ask.set('part', part);
          }
          return (
            <img
              key={from}
              width={240}
              height={180}
              loading="lazy"
              alt={`From the ${from.toLowerCase()}${part ? `, ${part}` : ''}`}
              src={`/api/pairs/apart.png?${ask}`}
              onError={(e) => {
                e.currentTarget.hidden = true;
              }}
            />
          );
        })}
      </div>
    </section>
  );
}
