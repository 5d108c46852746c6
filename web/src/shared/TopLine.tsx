import type { ReactNode } from 'react';
import { Link } from 'react-router-dom';
import { Button } from './Button';
import { useKeyOverlay } from './KeyOverlay';
import { useKeys } from './useKeys';
import { useTheme } from './useTheme';

interface Props {
  left?: ReactNode;
  middle?: ReactNode;
  right?: ReactNode;
}

/** The top line of every screen. */
export function TopLine({ left, middle, right }: Props) {
  const { theme, toggle } = useTheme();
  const keys = useKeyOverlay((s) => s.toggle);
  useKeys({ d: toggle });
  return (
    <header className="topline">
      <Link to="/" className="brand" title="Quay: all crossings">
        <img src="/ferry.svg" alt="" width={26} height={26} />
        <span>Stone Ferry</span>
      </Link>
      {left}
      <div className="topline-middle">{middle}</div>
      <div className="topline-right">
        {right}
        <Button variant="outline-secondary" onClick={() => toggle()} title="Day or night (D)">
          {theme === 'day' ? 'Night' : 'Day'}
        </Button>
        <Button
          variant="outline-secondary"
          onClick={() => keys()}
          aria-label="Keys"
          title="All keys (?)"
        >
          ?
        </Button>
      </div>
    </header>
  );
}
