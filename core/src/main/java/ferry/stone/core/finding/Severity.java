package ferry.stone.core.finding;

/** How bad a finding is. */
public enum Severity {
  /** Something was lost or will arrive wrong: put it right. */
  FIX,
  /** May be meant, may be a fault: look at it. */
  LOOK,
  /** Good to know. */
  NOTE
}
