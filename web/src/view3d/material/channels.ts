import {
  Color,
  DoubleSide,
  type Material,
  Matrix3,
  ShaderMaterial,
  type Texture,
  Vector3,
} from 'three';
import type { MaterialView, TextureView } from '../../api/client';

/** A channel that can be shown alone. */
export interface ChannelChoice {
  id: string;
  label: string;
  /** The texture that is its image. */
  texture: string;
  colour: boolean;
  /** The part of a packed image that three reads for it; empty for all of the image. */
  part: '' | 'r' | 'g' | 'b' | 'a';
  /** What its factor is: one number or three, linear; the image alone where there is none. */
  factor: (view: MaterialView) => number[];
}

const layer = (name: string, otherwise: number[]) => (view: MaterialView) =>
  view.layers[name] ?? otherwise;

function scalar(
  name: string,
  label: string,
  part: ChannelChoice['part'],
  otherwise = 0,
): ChannelChoice {
  const factor = layer(name, [otherwise]);
  return { id: name, label, texture: name, colour: false, part, factor };
}

const linear = (hex: string) => new Color(hex).toArray() as number[];

/** Names and parts as in glTF 2.0 and its ratified material extensions. */
export const CHANNELS: [ChannelChoice, ...ChannelChoice[]] = [
  {
    id: 'base',
    label: 'Base colour',
    texture: 'base',
    colour: true,
    part: '',
    factor: (v) => linear(v.colour),
  },
  {
    id: 'opacity',
    label: 'Opacity',
    texture: 'opacity',
    colour: false,
    part: 'g',
    factor: (v) => [v.opacity],
  },
  {
    id: 'metallic',
    label: 'Metallic',
    texture: 'metallic',
    colour: false,
    part: 'b',
    factor: (v) => [v.metallic],
  },
  {
    id: 'roughness',
    label: 'Roughness',
    texture: 'roughness',
    colour: false,
    part: 'g',
    factor: (v) => [v.roughness],
  },
  {
    id: 'normal',
    label: 'Normal map',
    texture: 'normal',
    colour: false,
    part: '',
    // A surface without a normal map is flat: straight out in its own space.
    factor: (v) => (v.textures.normal ? [1, 1, 1] : [0.5, 0.5, 1]),
  },
  {
    id: 'occlusion',
    label: 'Occlusion',
    texture: 'occlusion',
    colour: false,
    part: 'r',
    factor: () => [1],
  },
  {
    id: 'emissive',
    label: 'Emissive',
    texture: 'emissive',
    colour: true,
    part: '',
    factor: (v) => linear(v.emissive),
  },
  scalar('clearcoat', 'Clear coat', 'r'),
  scalar('clearcoat_roughness', 'Clear coat roughness', 'g'),
  {
    id: 'sheen',
    label: 'Sheen',
    texture: 'sheen',
    colour: true,
    part: '',
    factor: layer('sheen', [0, 0, 0]),
  },
  scalar('transmission_weight', 'Transmission', 'r'),
  scalar('iridescence', 'Iridescence', 'r'),
  scalar('anisotropy', 'Anisotropy', 'b'),
  scalar('specular_weight', 'Specular weight', 'a', 1),
];

/** The channels that some material of a side says something about, and the usual ones. */
export function channelsOf(materials: MaterialView[]): ChannelChoice[] {
  const usual = CHANNELS.findIndex((c) => c.id === 'emissive');
  return CHANNELS.filter(
    (c, i) => i <= usual || materials.some((m) => c.id in m.layers || m.textures[c.texture]),
  );
}

const PARTS = { '': -1, r: 0, g: 1, b: 2, a: 3 } as const;

const VERTEX = `
#include <common>
#include <uv_pars_vertex>
#include <skinning_pars_vertex>
#include <morphtarget_pars_vertex>
#include <batching_pars_vertex>
uniform mat3 place;
varying vec2 vPlace;
#ifdef SECOND
attribute vec2 SECOND;
#endif
void main() {
  #ifdef SECOND
    vPlace = (place * vec3(SECOND, 1.0)).xy;
  #else
    vPlace = (place * vec3(uv, 1.0)).xy;
  #endif
  #include <begin_vertex>
  #include <morphinstance_vertex>
  #include <morphtarget_vertex>
  #include <skinbase_vertex>
  #include <skinning_vertex>
  #include <project_vertex>
}`;

/** Numbers come out as the image has them: a roughness of 0.5 is the grey 128. */
const FRAGMENT = `
uniform vec3 factor;
uniform sampler2D image;
uniform bool hasImage;
uniform bool colour;
uniform int part;
varying vec2 vPlace;
vec3 encoded(vec3 c) {
  return mix(1.055 * pow(c, vec3(1.0 / 2.4)) - 0.055, c * 12.92, vec3(lessThanEqual(c, vec3(0.0031308))));
}
void main() {
  vec4 texel = hasImage ? texture2D(image, vPlace) : vec4(1.0);
  vec3 value = part == 0 ? texel.rrr : part == 1 ? texel.ggg : part == 2 ? texel.bbb
    : part == 3 ? texel.aaa : texel.rgb;
  value *= factor;
  gl_FragColor = vec4(colour ? encoded(clamp(value, 0.0, 1.0)) : value, 1.0);
}`;

/**
 * A material that shows one channel: factor times image, colours as sRGB (IEC 61966-2-1), numbers as
 * greys.
 *
 * @param texture of the channel's image; `null` where there is none
 */
export function alone(
  channel: ChannelChoice,
  view: MaterialView | undefined,
  image: TextureView | undefined,
  texture: Texture | null,
): Material {
  const factor = view ? channel.factor(view) : [0.55, 0.4, 0.1];
  const [r = 0, g = r, b = r] = factor;
  texture?.updateMatrix();
  const set = texture?.channel ?? 0;
  return new ShaderMaterial({
    vertexShader: VERTEX,
    fragmentShader: FRAGMENT,
    side: DoubleSide,
    defines: set > 0 ? { SECOND: `uv${set}` } : {},
    uniforms: {
      factor: { value: new Vector3(r, g, b) },
      image: { value: texture },
      hasImage: { value: texture !== null },
      colour: { value: channel.colour },
      // A part that stands alone fills the image already.
      part: { value: image?.part ? 0 : PARTS[channel.part] },
      place: { value: texture?.matrix ?? new Matrix3() },
    },
  });
}
