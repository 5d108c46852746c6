import { Color, type MeshPhysicalMaterial, type Texture } from 'three';
import type { MaterialView } from '../../api/client';

type TextureOf = (name: string, colour: boolean) => Texture | null;

/**
 * Clear coat, sheen, transmission and the other layers, by the names and defaults of glTF's ratified
 * material extensions, as three draws them.
 *
 * @param metresPerUnit of the lengths in them
 */
export function putLayers(
  material: MeshPhysicalMaterial,
  view: MaterialView,
  metresPerUnit: number,
  texture: TextureOf,
) {
  const number = (name: string, otherwise: number) => view.layers[name]?.[0] ?? otherwise;
  const colour = (name: string, otherwise: number) => {
    const [r = otherwise, g = otherwise, b = otherwise] = view.layers[name] ?? [];
    return new Color().setRGB(r, g, b);
  };
  material.clearcoat = number('clearcoat', 0);
  material.clearcoatMap = texture('clearcoat', false);
  material.clearcoatRoughness = number('clearcoat_roughness', 0);
  material.clearcoatRoughnessMap = texture('clearcoat_roughness', false);
  material.clearcoatNormalMap = texture('clearcoat_normal', false);
  if ('sheen' in view.layers) {
    material.sheen = 1;
    material.sheenColor = colour('sheen', 0);
    material.sheenColorMap = texture('sheen', true);
    material.sheenRoughness = number('sheen_roughness', 0);
    material.sheenRoughnessMap = texture('sheen_roughness', false);
  }
  material.ior = number('ior', 1.5);
  material.specularIntensity = number('specular_weight', 1);
  material.specularIntensityMap = texture('specular_weight', false);
  material.specularColor = colour('specular_tint', 1);
  material.specularColorMap = texture('specular_tint', true);
  material.transmission = number('transmission_weight', 0);
  material.transmissionMap = texture('transmission_weight', false);
  material.thickness = number('thickness', 0) * metresPerUnit;
  material.thicknessMap = texture('thickness', false);
  // The standard's infinity is no number in JSON: what is left out does not end.
  material.attenuationDistance =
    number('attenuation_distance', Number.POSITIVE_INFINITY) * metresPerUnit;
  material.attenuationColor = colour('attenuation_colour', 1);
  material.dispersion = number('dispersion', 0);
  material.iridescence = number('iridescence', 0);
  material.iridescenceMap = texture('iridescence', false);
  material.iridescenceIOR = number('iridescence_ior', 1.3);
  material.iridescenceThicknessMinimum = number('iridescence_thickness_least', 100);
  material.iridescenceThicknessMaximum = number('iridescence_thickness', 400);
  material.iridescenceThicknessMap = texture('iridescence_thickness', false);
  material.anisotropy = number('anisotropy', 0);
  material.anisotropyRotation = number('anisotropy_rotation', 0);
  material.anisotropyMap = texture('anisotropy', false);
}
