package ferry.stone.core.math;

/** Whether X × Y points along +Z (right) or −Z (left). */
public enum Handedness {
  RIGHT,
  LEFT
}
