package ferry.stone.core.format.gltf.draco;

/** Asked before memory is taken for what a stream claims. */
@FunctionalInterface
public interface DracoMemory {
  /** Refuses with an exception of its own where so many faces are more than there is memory for. */
  void claim(long faces) throws DracoException;
}
