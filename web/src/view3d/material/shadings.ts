import {
  CanvasTexture,
  DoubleSide,
  type Material,
  MeshStandardMaterial,
  NearestFilter,
  RepeatWrapping,
  SRGBColorSpace,
  type Texture,
} from 'three';

/** Fronts plain, backs vermilion. */
export function sidesMaterial(flatShading: boolean): Material {
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
export function deviationMaterial(flatShading: boolean, most: number): Material {
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
export function piecesMaterial(flatShading: boolean): Material {
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
export function weightsMaterial(flatShading: boolean, joint: number): Material {
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
export function checker(): Texture {
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
