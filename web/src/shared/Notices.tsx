import { Toast, ToastContainer } from 'react-bootstrap';
import { create } from 'zustand';

interface Notice {
  id: number;
  text: string;
  bad: boolean;
}

interface NoticeState {
  notices: Notice[];
  say: (text: string, bad?: boolean) => void;
  drop: (id: number) => void;
}

let nextId = 1;

/** Short messages at the lower edge. */
export const useNotices = create<NoticeState>((set) => ({
  notices: [],
  say: (text, bad = false) =>
    set((s) => ({ notices: [...s.notices.slice(-3), { id: nextId++, text, bad }] })),
  drop: (id) => set((s) => ({ notices: s.notices.filter((n) => n.id !== id) })),
}));

/** Tells the user that something did not work. */
export function complain(error: unknown) {
  useNotices.getState().say(error instanceof Error ? error.message : String(error), true);
}

export function Notices() {
  const { notices, drop } = useNotices();
  return (
    <ToastContainer position="bottom-center" className="p-3 notices">
      {notices.map((n) => (
        <Toast
          key={n.id}
          onClose={() => drop(n.id)}
          autohide={!n.bad}
          delay={5000}
          className={n.bad ? 'notice-bad' : ''}
        >
          <Toast.Body className="d-flex gap-2">
            <span className="flex-grow-1">{n.text}</span>
            <button
              type="button"
              className="btn-close"
              aria-label="Close"
              onClick={() => drop(n.id)}
            />
          </Toast.Body>
        </Toast>
      ))}
    </ToastContainer>
  );
}
