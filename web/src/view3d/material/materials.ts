import {
  ClampToEdgeWrapping,
  Color,
  DoubleSide,
  FrontSide,
  type Material,
  MeshBasicMaterial,
  MeshPhysicalMaterial,
  MeshStandardMaterial,
  MirroredRepeatWrapping,
  NearestFilter,
  RepeatWrapping,
  SRGBColorSpace,
  type Texture,
  TextureLoader,
} from 'three';
import type { MaterialView, TextureView } from '../../api/client';
import type { Shading } from '../viewState';
import { alone, CHANNELS } from './channels';
import { inkOf } from './inks';
import { putLayers } from './layers';
import {
  checker,
  deviationMaterial,
  piecesMaterial,
  sidesMaterial,
  weightsMaterial,
} from './shadings';

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

/** What surfaces are drawn with beside their shading. */
export interface More {
  /** Whether there is something around to be mirrored. */
  mirrored: boolean;
  /** The channel that is shown alone. */
  channel: string;
  /** Of the numbers of the side's materials. */
  metresPerUnit: number;
}

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
    private readonly more: More = { mirrored: false, channel: '', metresPerUnit: 1 },
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
    const surface =
      this.shading === 'channel' ? this.channel(id, has) : this.surface(id, has, flatShading);
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
    // Light goes through twice as much where backs are drawn: glass keeps what it says.
    const clear = view !== undefined && 'transmission_weight' in view.layers;
    const bothSides = view?.doubleSided || (this.showBacks && !clear);
    const plain = {
      flatShading,
      vertexColors: has.colour,
      side: bothSides ? DoubleSide : FrontSide,
    };
    if (view?.unlit) {
      const { flatShading: _, ...unlit } = plain;
      const basic = new MeshBasicMaterial({ ...unlit, color: view.colour });
      basic.map = has.uv ? this.texture(view.textures.base, true) : null;
      basic.opacity = view.opacity;
      basic.transparent = view.alpha === 'BLEND';
      return basic;
    }
    const layered = view !== undefined && Object.keys(view.layers).length > 0;
    const material = layered ? new MeshPhysicalMaterial(plain) : new MeshStandardMaterial(plain);
    if (!view) {
      // No material: brass, so that it stands out.
      material.color.set(has.colour ? '#ffffff' : BRASS);
      material.roughness = 0.8;
      return material;
    }
    const baseLost = view.missing.includes('base colour');
    material.color.set(baseLost ? VERMILION : view.colour);
    material.roughness = view.roughness;
    // Where nothing is there to be mirrored, full metal would be black.
    material.metalness = view.metallic * (this.more.mirrored ? 1 : METAL_SHOWN);
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
      if (this.more.mirrored) {
        material.aoMap = this.texture(view.textures.occlusion, false);
      }
    }
    if (material instanceof MeshPhysicalMaterial) {
      putLayers(material, view, this.more.metresPerUnit, (name, colour) =>
        has.uv ? this.texture(view.textures[name], colour) : null,
      );
    }
    return material;
  }

  /** One channel of a material, as its numbers and its image have it, without any light. */
  private channel(id: number, has: { uv: boolean; colour: boolean }): Material {
    const view = this.views.get(id);
    const channel = CHANNELS.find((c) => c.id === this.more.channel) ?? CHANNELS[0];
    const image = has.uv && view ? view.textures[channel.texture] : undefined;
    return alone(channel, view, image, this.texture(image, channel.colour));
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
