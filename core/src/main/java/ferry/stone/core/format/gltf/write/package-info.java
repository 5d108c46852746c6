/** glTF from scenes. */
package ferry.stone.core.format.gltf.write;
