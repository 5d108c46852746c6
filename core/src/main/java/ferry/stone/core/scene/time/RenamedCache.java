package ferry.stone.core.scene.time;

/** Another cache under an id of its own, for another mesh. */
public record RenamedCache(PointCache of, int id, int meshId) implements DerivedCache {}
