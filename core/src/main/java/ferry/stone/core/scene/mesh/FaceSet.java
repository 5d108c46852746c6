package ferry.stone.core.scene.mesh;

/**
 * A named set of faces: a group of an OBJ, a face set of a cache, a subset of a scene format.
 *
 * @param faces rising indices of its faces; a face may lie in several sets
 */
public record FaceSet(String name, int[] faces) {}
