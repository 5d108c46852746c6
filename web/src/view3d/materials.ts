import {
  CanvasTexture,
  ClampToEdgeWrapping,
  Color,
  DoubleSide,
  FrontSide,
  type Material,
  MeshStandardMaterial,
  MirroredRepeatWrapping,
  NearestFilter,
  RepeatWrapping,
  SRGBColorSpace,
  type Texture,
  TextureLoader,
} from 'three';
import type { MaterialView, TextureView } from '../api/client';
import { inkOf } from './inks';
import type { Shading } from './viewState';

const BRASS = '#c99a2e';
const VERMILION = '#d2452a';
const METAL_SHOWN = 0.55;
/** How much is seen of what does not stand out. */
const FADED = 0.14;
/** Sets of UVs that the graphics library knows. */
const MOST_SETS = 4;
const WRAPPING = {
  REPEAT: RepeatWrapping,
  CLAMP: ClampToEdgeWrapping,
  MIRROR: MirroredRepeatWrapping,
} as const;

/** Makes the materials of one side and one shading; the caller disposes of them. */
export class MaterialSet {
  private readonly made = new Map<string, Material>();
  private readonly textures = new Map<string, Texture>();
  private readonly loader = new TextureLoader();

  constructor(
    private readonly crossingId: string,
    private readonly views: Map<number, MaterialView>,
    private readonly shading: Shading,
    private readonly showBacks: boolean,
    private readonly changed: () => void,
    /** Deviation in metres that is drawn as most. */
    private readonly scale = 1,
    /** Name of the material that stands out; `null` for none. */
    private readonly lit: string | null = null,
  ) {}

  get(
    id: number,
    has: { normal: boolean; uv: boolean; colour: boolean },
    selected: boolean,
    joint = -1,
  ): Material {
    const key = `${id}/${has.normal}/${has.uv}/${has.colour}/${selected}/${joint}`;
    let material = this.made.get(key);
    if (!material) {
      material = this.make(id, has, joint);
      if (selected && this.shading !== 'weights' && material instanceof MeshStandardMaterial) {
        material.emissive = new Color('#0d7c7c');
        material.emissiveMap = null;
        material.emissiveIntensity = 0.3;
      }
      this.made.set(key, material);
    }
    return material;
  }

  private make(
    id: number,
    has: { normal: boolean; uv: boolean; colour: boolean },
    joint: number,
  ): Material {
    const flatShading = !has.normal;
    if (this.shading === 'sides') {
      return sidesMaterial(flatShading);
    }
    if (this.shading === 'deviation') {
      return deviationMaterial(flatShading, this.scale);
    }
    if (this.shading === 'pieces' || this.shading === 'sets') {
      return piecesMaterial(flatShading);
    }
    if (this.shading === 'materials') {
      return new MeshStandardMaterial({
        color: inkOf(id),
        roughness: 0.95,
        side: DoubleSide,
        flatShading,
      });
    }
    if (this.shading === 'weights') {
      return weightsMaterial(flatShading, joint);
    }
    if (this.shading === 'uv') {
      return new MeshStandardMaterial({
        color: has.uv ? '#ffffff' : '#8d8f8e',
        map: has.uv ? checker() : null,
        roughness: 0.9,
        side: DoubleSide,
        flatShading,
      });
    }
    const surface = this.surface(id, has, flatShading);
    if (this.lit !== null && this.views.get(id)?.name !== this.lit) {
      surface.opacity = FADED;
      surface.transparent = true;
      surface.depthWrite = false;
    }
    return surface;
  }

  private surface(
    id: number,
    has: { uv: boolean; colour: boolean },
    flatShading: boolean,
  ): Material {
    const view = this.views.get(id);
    const material = new MeshStandardMaterial({
      flatShading,
      vertexColors: has.colour,
      side: this.showBacks || view?.doubleSided ? DoubleSide : FrontSide,
    });
    if (!view) {
      // No material: brass, so that it stands out.
      material.color.set(has.colour ? '#ffffff' : BRASS);
      material.roughness = 0.8;
      return material;
    }
    const baseLost = view.missing.includes('base colour');
    material.color.set(baseLost ? VERMILION : view.colour);
    material.roughness = view.roughness;
    // Nothing is there to be mirrored: full metal would be black.
    material.metalness = view.metallic * METAL_SHOWN;
    material.emissive.set(view.emissive);
    material.emissiveIntensity = view.emissiveStrength;
    material.opacity = view.opacity;
    material.transparent = view.alpha === 'BLEND';
    if (has.uv) {
      material.map = this.texture(view.textures.base, true);
      material.alphaMap = this.texture(view.textures.opacity, false);
      if (material.alphaMap && view.opacity === 1) {
        material.alphaTest = 0.5;
        material.transparent = false;
      }
      material.roughnessMap = this.texture(view.textures.roughness, false);
      material.metalnessMap = this.texture(view.textures.metallic, false);
      material.normalMap = this.texture(view.textures.normal, false);
      material.bumpMap = this.texture(view.textures.bump, false);
      material.emissiveMap = this.texture(view.textures.emissive, true);
    }
    return material;
  }

  private texture(view: TextureView | undefined, colour: boolean): Texture | null {
    if (!view) {
      return null;
    }
    const key = `${view.key}/${view.part}/${colour}/${view.offsetU}/${view.offsetV}/${view.scaleU}/${view.scaleV}/${view.wrapU}/${view.wrapV}/${view.sharp}/${view.rotation}/${view.uvSet}`;
    let texture = this.textures.get(key);
    if (!texture) {
      texture = this.loader.load(
        `/api/crossings/${this.crossingId}/textures/${view.key}${view.part ? `?part=${view.part}` : ''}`,
        this.changed,
        undefined,
        this.changed,
      );
      texture.flipY = false;
      texture.wrapS = WRAPPING[view.wrapU];
      texture.wrapT = WRAPPING[view.wrapV];
      if (view.sharp) {
        texture.magFilter = NearestFilter;
      }
      texture.repeat.set(view.scaleU, view.scaleV);
      texture.offset.set(view.offsetU, view.offsetV);
      texture.rotation = view.rotation;
      texture.channel = Math.min(view.uvSet, MOST_SETS - 1);
      texture.anisotropy = 4;
      if (colour) {
        texture.colorSpace = SRGBColorSpace;
      }
      this.textures.set(key, texture);
    }
    return texture;
  }

  dispose() {
    for (const material of this.made.values()) {
      material.dispose();
    }
    for (const texture of this.textures.values()) {
      texture.dispose();
    }
  }
}

/** Fronts plain, backs vermilion. */
function sidesMaterial(flatShading: boolean): Material {
  const material = new MeshStandardMaterial({
    color: '#b9c4c3',
    roughness: 0.95,
    side: DoubleSide,
    flatShading,
  });
  material.onBeforeCompile = (shader) => {
    shader.fragmentShader = shader.fragmentShader.replace(
      '#include <color_fragment>',
      '#include <color_fragment>\n  if (!gl_FrontFacing) { diffuseColor.rgb = vec3(0.62, 0.06, 0.02); }',
    );
  };
  return material;
}

/** Pale where nothing lies apart, brass, then vermilion at the most; grey where nothing is known. */
function deviationMaterial(flatShading: boolean, most: number): Material {
  const material = new MeshStandardMaterial({ roughness: 0.95, side: DoubleSide, flatShading });
  const scale = Math.max(most, 1e-12).toExponential(6);
  material.customProgramCacheKey = () => `deviation/${scale}`;
  material.onBeforeCompile = (shader) => {
    shader.vertexShader = shader.vertexShader
      .replace(
        '#include <common>',
        '#include <common>\nattribute float deviation;\nvarying float vDeviation;',
      )
      .replace('#include <begin_vertex>', '#include <begin_vertex>\n  vDeviation = deviation;');
    shader.fragmentShader = shader.fragmentShader
      .replace('#include <common>', '#include <common>\nvarying float vDeviation;')
      .replace(
        '#include <color_fragment>',
        `#include <color_fragment>
  float off = clamp(vDeviation / ${scale}, 0.0, 1.0);
  diffuseColor.rgb = vDeviation > 1.0e20 ? vec3(0.35)
    : off < 0.5 ? mix(vec3(0.72, 0.74, 0.70), vec3(0.60, 0.36, 0.04), off * 2.0)
    : mix(vec3(0.60, 0.36, 0.04), vec3(0.64, 0.06, 0.02), off * 2.0 - 1.0);`,
      );
  };
  return material;
}

/** Each piece a hue of its own, spread by the golden ratio; what is in none is grey. */
function piecesMaterial(flatShading: boolean): Material {
  const material = new MeshStandardMaterial({ roughness: 0.95, side: DoubleSide, flatShading });
  material.onBeforeCompile = (shader) => {
    shader.vertexShader = shader.vertexShader
      .replace(
        '#include <common>',
        '#include <common>\nattribute float piece;\nvarying float vPiece;',
      )
      .replace('#include <begin_vertex>', '#include <begin_vertex>\n  vPiece = piece;');
    shader.fragmentShader = shader.fragmentShader
      .replace('#include <common>', '#include <common>\nvarying float vPiece;')
      .replace(
        '#include <color_fragment>',
        `#include <color_fragment>
  float hue = fract(floor(vPiece + 0.5) * 0.61803398875 + 0.47);
  vec3 ring = clamp(abs(fract(hue + vec3(0.0, 0.6667, 0.3333)) * 6.0 - 3.0) - 1.0, 0.0, 1.0);
  diffuseColor.rgb = vPiece < -0.5 ? vec3(0.4) : mix(vec3(0.42), ring, 0.55) * 0.8;`,
      );
  };
  return material;
}

/**
 * How much one joint moves each vertex, pale to vermilion; without a joint every joint has a hue of
 * its own, mixed by the weights. What no joint moves is grey.
 */
function weightsMaterial(flatShading: boolean, joint: number): Material {
  const material = new MeshStandardMaterial({ roughness: 0.95, side: DoubleSide, flatShading });
  material.customProgramCacheKey = () => `weights/${joint}`;
  material.onBeforeCompile = (shader) => {
    shader.vertexShader = shader.vertexShader
      .replace(
        '#include <common>',
        `#include <common>
varying vec3 vWeight;
vec3 jointHue(float joint) {
  float hue = fract(joint * 0.61803398875 + 0.47);
  vec3 ring = clamp(abs(fract(hue + vec3(0.0, 0.6667, 0.3333)) * 6.0 - 3.0) - 1.0, 0.0, 1.0);
  return mix(vec3(0.42), ring, 0.6) * 0.8;
}
vec3 jointHeat(float w) {
  return w < 0.5 ? mix(vec3(0.72, 0.74, 0.70), vec3(0.55, 0.32, 0.03), w * 2.0)
    : mix(vec3(0.55, 0.32, 0.03), vec3(0.64, 0.06, 0.02), w * 2.0 - 1.0);
}`,
      )
      .replace(
        '#include <begin_vertex>',
        `#include <begin_vertex>
  vWeight = vec3(0.35);
#ifdef USE_SKINNING
  vWeight = vec3(0.0);
  float ofJoint = 0.0;
  for (int k = 0; k < 4; k++) {
    vWeight += skinWeight[k] * jointHue(skinIndex[k]);
    ofJoint += abs(skinIndex[k] - float(${joint})) < 0.5 ? skinWeight[k] : 0.0;
  }
  if (${joint} >= 0) { vWeight = jointHeat(ofJoint); }
#endif`,
      );
    shader.fragmentShader = shader.fragmentShader
      .replace('#include <common>', '#include <common>\nvarying vec3 vWeight;')
      .replace(
        '#include <color_fragment>',
        '#include <color_fragment>\n  diffuseColor.rgb = vWeight;',
      );
  };
  return material;
}

let checkerTexture: Texture | null = null;

/** Eight by eight fields with a mark for each row and column, so that turns and mirrors show. */
function checker(): Texture {
  if (checkerTexture) {
    return checkerTexture;
  }
  const size = 512;
  const fields = 8;
  const canvas = document.createElement('canvas');
  canvas.width = size;
  canvas.height = size;
  const c = canvas.getContext('2d');
  if (c) {
    const f = size / fields;
    c.font = `600 ${f * 0.36}px sans-serif`;
    c.textAlign = 'center';
    c.textBaseline = 'middle';
    for (let y = 0; y < fields; y++) {
      for (let x = 0; x < fields; x++) {
        const dark = (x + y) % 2 === 0;
        c.fillStyle = dark ? '#39686c' : '#efe9db';
        c.fillRect(x * f, y * f, f, f);
        c.fillStyle = dark ? '#cfe0df' : '#6d5a2c';
        c.fillText('ABCDEFGH'.charAt(x) + (fields - y), (x + 0.5) * f, (y + 0.53) * f);
      }
    }
  }
  checkerTexture = new CanvasTexture(canvas);
  checkerTexture.flipY = false;
  checkerTexture.wrapS = RepeatWrapping;
  checkerTexture.wrapT = RepeatWrapping;
  checkerTexture.colorSpace = SRGBColorSpace;
  checkerTexture.magFilter = NearestFilter;
  checkerTexture.anisotropy = 4;
  return checkerTexture;
}
