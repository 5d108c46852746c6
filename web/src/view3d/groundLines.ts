import { BufferAttribute, BufferGeometry } from 'three';

const LINES = 14;

/** Lines of the ground at height 0, in squares around a point. */
export function groundLines(square: number, cx: number, cz: number): BufferGeometry {
  const points: number[] = [];
  // Short pieces: some drivers drop a whole line when one end lies behind the eye.
  for (let i = -LINES; i <= LINES; i++) {
    for (let j = -LINES; j < LINES; j++) {
      const [at, begin, end] = [i * square, j * square, (j + 1) * square];
      points.push(cx + at, 0, cz + begin, cx + at, 0, cz + end);
      points.push(cx + begin, 0, cz + at, cx + end, 0, cz + at);
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(new Float32Array(points), 3));
  return geometry;
}
