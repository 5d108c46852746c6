package ferry.stone.core.geometry;

import ferry.stone.core.scene.PointCache;

/** Another cache under an id of its own, for another mesh. */
public record RenamedCache(PointCache of, int id, int meshId) implements DerivedCache {}
