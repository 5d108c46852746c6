/**
 * Reads meshes packed with Draco, after the published "Draco Bitstream Specification" 2.2, by which
 * KHR_draco_mesh_compression goes.
 */
package ferry.stone.core.format.gltf.draco;
