/** Scenes from glTF. */
package ferry.stone.core.format.gltf.read;
