import { useMemo } from 'react';
import { CanvasTexture, SRGBColorSpace, Vector2 } from 'three';
import { metres, niceStep } from '../shared/format';
import { type Box, radiusOf } from './data/bounds';

const ADULT_METRES = 1.75;
const LABEL_HEIGHT = 0.024;

/** Labels stand to the right of the staff. */
const LEFT_MIDDLE = new Vector2(-0.16, 0.5);

interface Label {
  text: string;
  y: number;
  adult: boolean;
}

/** Heights to mark: round ones, and the adult where it does not collide with them. */
export function marksFor(heightMetres: number): { tick: number; top: number; labels: Label[] } {
  const tick = niceStep(heightMetres / 6);
  const top = Math.ceil(heightMetres / tick - 1e-9) * tick;
  const labels: Label[] = [];
  const showAdult = ADULT_METRES <= top && ADULT_METRES > top * 0.02;
  for (let i = 1; i * tick <= top + tick * 1e-6; i++) {
    const y = i * tick;
    const collides = showAdult && Math.abs(y - ADULT_METRES) < top * 0.09;
    if (!collides) {
      labels.push({ text: metres(Number(y.toPrecision(6))), y, adult: false });
    }
  }
  if (showAdult) {
    labels.push({ text: 'adult 1.75 m', y: ADULT_METRES, adult: true });
  }
  return { tick, top, labels };
}

function labelTexture(text: string, colour: string): { texture: CanvasTexture; aspect: number } {
  const canvas = document.createElement('canvas');
  const c = canvas.getContext('2d') as CanvasRenderingContext2D;
  const font = '500 44px "IBM Plex Sans", sans-serif';
  c.font = font;
  canvas.width = Math.ceil(c.measureText(text).width) + 12;
  canvas.height = 60;
  c.font = font;
  c.fillStyle = colour;
  c.textBaseline = 'middle';
  c.fillText(text, 6, 32);
  const texture = new CanvasTexture(canvas);
  texture.colorSpace = SRGBColorSpace;
  return { texture, aspect: canvas.width / canvas.height };
}

interface Props {
  box: Box;
  metresPerUnit: number;
  night: boolean;
}

/** The measuring staff beside the asset, in real units, with the mark of an adult. */
export function TideStaff({ box, metresPerUnit, night }: Props) {
  const radius = radiusOf(box);
  const tall = Math.max(box.max[1], radius * 0.5) * metresPerUnit;
  // A small thing is measured by a short staff; near the size of a person the adult is shown.
  const height = tall > 0.45 && tall < 2 ? 2 : tall;
  const { tick, top, labels } = useMemo(() => marksFor(height), [height]);
  const unit = 1 / metresPerUnit;
  const width = radius * 0.028;
  const x = box.min[0] - radius * 0.28;
  const z = (box.min[2] + box.max[2]) / 2;
  const sprites = useMemo(
    () =>
      labels.map((l) => ({
        ...l,
        ...labelTexture(
          l.text,
          l.adult ? (night ? '#5cc2b8' : '#0f6d6d') : night ? '#a4b5bb' : '#51606f',
        ),
      })),
    [labels, night],
  );
  const bands = Math.min(80, Math.round((top / tick) * 2));
  return (
    <group position={[x, 0, z]}>
      {Array.from({ length: bands }, (_, i) => (
        <mesh key={i} position={[0, (i + 0.5) * (tick / 2) * unit, 0]}>
          <boxGeometry args={[width, (tick / 2) * unit, width]} />
          <meshBasicMaterial
            color={i % 2 === 0 ? (night ? '#8ea1a9' : '#1c2a3a') : night ? '#e4ebe9' : '#faf8f3'}
            toneMapped={false}
          />
        </mesh>
      ))}
      {sprites.map((s) => (
        <group key={s.text} position={[0, s.y * unit, 0]}>
          {s.adult && (
            <mesh>
              <boxGeometry args={[width * 3.4, width * 0.28, width * 1.3]} />
              <meshBasicMaterial color={night ? '#5cc2b8' : '#0f6d6d'} toneMapped={false} />
            </mesh>
          )}
          <sprite
            center={LEFT_MIDDLE}
            scale={[LABEL_HEIGHT * s.aspect, LABEL_HEIGHT, 1]}
            renderOrder={5}
          >
            <spriteMaterial
              map={s.texture}
              sizeAttenuation={false}
              depthTest={false}
              toneMapped={false}
              transparent
            />
          </sprite>
        </group>
      ))}
    </group>
  );
}
