/** What becomes of materials and their images as glTF: one plan, told and then written. */
package ferry.stone.core.format.gltf.plan;
