/** Shapes: points, faces, layers of values over them, morph targets. */
package ferry.stone.core.scene.mesh;
