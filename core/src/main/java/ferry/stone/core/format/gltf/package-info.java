/** glTF 2.0: GLB, separate and embedded. */
package ferry.stone.core.format.gltf;
