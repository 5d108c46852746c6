import { useMemo } from 'react';
import { BufferAttribute, BufferGeometry } from 'three';
import { niceStep } from '../shared/format';
import { type Box, centreOf, radiusOf } from './data/bounds';
import { groundLines } from './groundLines';

/** Side of one square of the ground, in units of the view. */
export function squareOf(box: Box, metresPerUnit: number): number {
  return niceStep((radiusOf(box) * metresPerUnit) / 3) / metresPerUnit;
}

interface Props {
  box: Box;
  metresPerUnit: number;
  night: boolean;
}

/** The ground at height 0 in squares of a round length, with the axes of the shore. */
export function GroundGrid({ box, metresPerUnit, night }: Props) {
  const square = squareOf(box, metresPerUnit);
  const centre = centreOf(box);
  const cx = Math.round(centre[0] / square) * square;
  const cz = Math.round(centre[2] / square) * square;
  const grid = useMemo(() => groundLines(square, cx, cz), [square, cx, cz]);
  const axes = useMemo(() => {
    const length = square * 1.5;
    const geometry = new BufferGeometry();
    geometry.setAttribute(
      'position',
      new BufferAttribute(
        new Float32Array([0, 0, 0, length, 0, 0, 0, 0, 0, 0, length, 0, 0, 0, 0, 0, 0, length]),
        3,
      ),
    );
    const ink = (hex: number) => [(hex >> 16) / 255, ((hex >> 8) & 255) / 255, (hex & 255) / 255];
    const [x, y, z] = [ink(0xb8371f), ink(0x2f6b43), ink(0x2c5f8a)];
    geometry.setAttribute(
      'color',
      new BufferAttribute(new Float32Array([...x, ...x, ...y, ...y, ...z, ...z] as number[]), 3),
    );
    return geometry;
  }, [square]);
  return (
    <>
      <lineSegments geometry={grid}>
        <lineBasicMaterial
          color={night ? '#4d7585' : '#8ba0a3'}
          transparent
          opacity={0.42}
          depthWrite={false}
        />
      </lineSegments>
      <lineSegments geometry={axes}>
        <lineBasicMaterial vertexColors toneMapped={false} />
      </lineSegments>
    </>
  );
}
