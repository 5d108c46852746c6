package ferry.stone.core.format.obj.write;

import ferry.stone.core.math.Frame;

/**
 * What was chosen.
 *
 * @param frame what the numbers mean; the file does not say it
 * @param decimals places after the point of positions, {@link #ALL} for as many as there are
 * @param pbrKeys whether the physically based keys are written; materials are translated to the
 *     classic ones otherwise
 */
public record ObjOptions(Frame frame, int decimals, boolean pbrKeys) {
  public static final int ALL = -1;
}
