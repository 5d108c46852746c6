import { Link, useLocation } from 'react-router-dom';

const SCREENS = [
  { to: '/', label: 'Quay' },
  { to: '/compare', label: 'Compare' },
  { to: '/batches', label: 'Batches' },
  { to: '/routines', label: 'Routines' },
  { to: '/shores', label: 'Shores' },
  { to: '/atlas', label: 'Format atlas' },
  { to: '/jobs', label: 'Jobs' },
];

/** The screens beside the crossings. */
export function ScreenNav() {
  const { pathname } = useLocation();
  return (
    <nav className="d-flex gap-3" aria-label="Screens">
      {SCREENS.map((s) => {
        const here = s.to === '/' ? pathname === '/' : pathname.startsWith(s.to);
        return here ? (
          <b key={s.to}>{s.label}</b>
        ) : (
          <Link key={s.to} to={s.to} className="quiet text-decoration-none">
            {s.label}
          </Link>
        );
      })}
    </nav>
  );
}
