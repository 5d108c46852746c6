/** Containers, extensions and compressed buffers of glTF. */
package ferry.stone.core.format.gltf.raw;
