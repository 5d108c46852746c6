package ferry.stone.core.scene;

/** Why a scene's frame is what it is said to be. */
public enum FrameSource {
  /** The file says so. */
  STATED,
  /** The file format is always so. */
  FORMAT,
  /** The file is silent: the likeliest reading. */
  ASSUMED,
  /** The user said so. */
  CHOSEN
}
