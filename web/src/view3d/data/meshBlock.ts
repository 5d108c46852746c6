import { BufferAttribute, BufferGeometry } from 'three';

/** One material's triangles of a mesh, or its lines or points. */
export interface Part {
  kind: 'triangles' | 'lines' | 'points';
  material: number;
  geometry: BufferGeometry;
  triangles: number;
  /** The same with corners of their own, each with the face set of its triangle. */
  sets?: BufferGeometry;
}

interface Header {
  primitives: {
    kind: Part['kind'];
    material: number;
    vertices: number;
    triangles: number;
    segments?: number;
    position: number;
    normal?: number;
    uv?: number;
    uv1?: number;
    uv2?: number;
    uv3?: number;
    colour?: number;
    joint?: number;
    weight?: number;
    index: number;
    morph?: number;
  }[];
  /** Keys of the morph targets. */
  morphs: string[];
}

/** Reads the server's mesh block: uint32 JSON length, JSON, then arrays at their offsets. */
export function readBlock(buffer: ArrayBuffer, at: number): Part[] {
  const length = new DataView(buffer).getUint32(at, true);
  const text = new TextDecoder().decode(new Uint8Array(buffer, at + 4, length));
  const header = JSON.parse(text) as Header;
  const base = at + 4 + length;
  return header.primitives.map((p) => {
    const floats = (offset: number, count: number) =>
      new Float32Array(buffer, base + offset, count);
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(floats(p.position, 3 * p.vertices), 3));
    if (p.normal !== undefined) {
      geometry.setAttribute('normal', new BufferAttribute(floats(p.normal, 3 * p.vertices), 3));
    }
    for (const set of ['uv', 'uv1', 'uv2', 'uv3'] as const) {
      const at = p[set];
      if (at !== undefined) {
        geometry.setAttribute(set, new BufferAttribute(floats(at, 2 * p.vertices), 2));
      }
    }
    if (p.colour !== undefined) {
      geometry.setAttribute('color', new BufferAttribute(floats(p.colour, 3 * p.vertices), 3));
    }
    if (p.joint !== undefined && p.weight !== undefined) {
      geometry.setAttribute('skinIndex', new BufferAttribute(floats(p.joint, 4 * p.vertices), 4));
      geometry.setAttribute('skinWeight', new BufferAttribute(floats(p.weight, 4 * p.vertices), 4));
    }
    const { morph } = p;
    if (morph !== undefined) {
      geometry.morphTargetsRelative = true;
      geometry.morphAttributes.position = header.morphs.map((name, m) => {
        const deltas = floats(morph + 12 * p.vertices * m, 3 * p.vertices);
        const attribute = new BufferAttribute(deltas, 3);
        attribute.name = name;
        return attribute;
      });
    }
    if (p.kind !== 'points') {
      const corners = p.kind === 'lines' ? 2 * (p.segments ?? 0) : 3 * p.triangles;
      geometry.setIndex(new BufferAttribute(new Uint32Array(buffer, base + p.index, corners), 1));
    }
    return { kind: p.kind, material: p.material, geometry, triangles: p.triangles };
  });
}

/** Reads several blocks, each after its length. An absent mesh is empty. */
export function readBlocks(buffer: ArrayBuffer, count: number): Part[][] {
  return blockPlaces(buffer, count).map(({ at, length }) =>
    length === 0 ? [] : readBlock(buffer, at),
  );
}

/** Lines and points belong to no piece and no set. */
function surfaces(parts: Part[] | undefined): Part[] {
  return (parts ?? []).filter((p) => p.kind === 'triangles');
}

/** Gives each mesh's parts the piece of every vertex, from blocks in the meshes' order. */
export function readPieces(buffer: ArrayBuffer, meshes: Part[][]) {
  for (const [i, { at, length }] of blockPlaces(buffer, meshes.length).entries()) {
    let from = at;
    for (const { geometry } of length === 0 ? [] : surfaces(meshes[i])) {
      const vertices = geometry.getAttribute('position').count;
      const pieces = new Float32Array(buffer, from, vertices);
      geometry.setAttribute('piece', new BufferAttribute(pieces, 1));
      from += 4 * vertices;
    }
  }
}

/** Gives each mesh's parts a geometry coloured by face sets, from blocks in the meshes' order. */
export function readFaceSets(buffer: ArrayBuffer, meshes: Part[][]) {
  for (const [i, { at, length }] of blockPlaces(buffer, meshes.length).entries()) {
    let from = at;
    for (const part of length === 0 ? [] : surfaces(meshes[i])) {
      const ofTriangle = new Float32Array(buffer, from, part.triangles);
      const corners = new Float32Array(3 * part.triangles);
      for (let c = 0; c < corners.length; c++) {
        corners[c] = ofTriangle[Math.floor(c / 3)] as number;
      }
      part.sets = part.geometry.toNonIndexed();
      part.sets.setAttribute('piece', new BufferAttribute(corners, 1));
      from += 4 * part.triangles;
    }
  }
}

/** Blocks of one number a vertex, in the order they were asked for; an absent one is `null`. */
export function readNumbers(buffer: ArrayBuffer, count: number): (Float32Array | null)[] {
  return blockPlaces(buffer, count).map(({ at, length }) =>
    length === 0 ? null : new Float32Array(buffer, at, length / 4),
  );
}

function blockPlaces(buffer: ArrayBuffer, count: number) {
  const view = new DataView(buffer);
  const places: { at: number; length: number }[] = [];
  let at = 0;
  for (let i = 0; i < count; i++) {
    const length = view.getUint32(at, true);
    places.push({ at: at + 4, length });
    at += 4 + length;
  }
  return places;
}
