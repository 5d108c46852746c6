import type { BenchSlot } from '../../api/client';

interface Props {
  id: string;
  slot: BenchSlot | null | undefined;
  size: number;
}

/** A small picture of what a channel has: its image, else its colour, else its number. */
export function Thumb({ id, slot, size }: Props) {
  const box = { width: size, height: size };
  if (!slot) {
    return <span className="thumb thumb-none" style={box} />;
  }
  if (slot.state === 'missing') {
    return (
      <span className="thumb thumb-lost" style={box} title={`${slot.image}: not found`}>
        ?
      </span>
    );
  }
  if (slot.key === '') {
    return slot.swatch ? (
      <span className="thumb" style={{ ...box, background: slot.swatch }} title={slot.factor} />
    ) : (
      <span className="thumb thumb-number" style={box} title={slot.factor}>
        {slot.factor.split(' ')[0]?.slice(0, 4)}
      </span>
    );
  }
  const part = slot.part ? `&part=${slot.part}` : '';
  return (
    <img
      className="thumb"
      style={box}
      loading="lazy"
      alt={slot.image}
      src={`/api/crossings/${id}/textures/${slot.key}?size=${2 * size}${part}`}
    />
  );
}
