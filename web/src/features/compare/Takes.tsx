import { Form } from 'react-bootstrap';

interface Props {
  asked: URLSearchParams;
  first: string[];
  second: string[];
  onSet: (change: Record<string, string>) => void;
}

/** Holds one clip against another, whatever their names: a take against a take. */
export function Takes({ asked, first, second, onSet }: Props) {
  const one = asked.get('firstClip') ?? '';
  const other = asked.get('secondClip') ?? '';
  const set = (a: string, b: string) => onSet({ firstClip: a, secondClip: b });
  return (
    <div className="pair-takes">
      <Form.Select
        size="sm"
        aria-label="Take of the first"
        value={one}
        onChange={(e) => {
          const name = e.target.value;
          const same = second.includes(name) ? name : (second[0] ?? '');
          set(name, name ? other || same : '');
        }}
      >
        <option value="">All clips, by their names</option>
        {first.map((name) => (
          <option key={name} value={name}>
            {name}
          </option>
        ))}
      </Form.Select>
      {one && (
        <>
          <span className="quiet">against</span>
          <Form.Select
            size="sm"
            aria-label="Take of the second"
            value={other}
            onChange={(e) => set(one, e.target.value)}
          >
            {second.map((name) => (
              <option key={name} value={name}>
                {name}
              </option>
            ))}
          </Form.Select>
        </>
      )}
    </div>
  );
}
