import type { SideView } from '../../../api/client';

const STATES: Record<string, { word: string; pill: string }> = {
  found: { word: 'found', pill: 'pill-kept' },
  embedded: { word: 'inside', pill: 'pill-kept' },
  missing: { word: 'missing', pill: 'pill-loss' },
};

/** The file's images: whether they are beside it, inside it or gone, and who uses them. */
export function TextureList({ textures }: { textures: SideView['textures'] }) {
  return (
    <section aria-label="Textures">
      <h3 className="caps">Textures</h3>
      <table className="clip-list texture-list">
        <tbody>
          {textures.map((t) => (
            <tr
              key={t.id}
              title={`${t.written}${t.place ? ` · found as ${t.place}` : ''} · ${t.materials.join(', ')}`}
            >
              <td>{t.name || t.written}</td>
              <td>
                <span className={`pill ${STATES[t.state]?.pill}`}>{STATES[t.state]?.word}</span>
              </td>
              <td className="quiet">{t.materials.join(', ')}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
