package ferry.stone.core.finding;

import java.util.List;

/**
 * One result of reading, surveying or handling.
 *
 * @param code stable name in kebab case, e.g. {@code open-edges}
 * @param severity how bad it is
 * @param where file, line, node path or material the finding is about, for people
 * @param message what was found, in one sentence
 * @param measured the figure with its unit, or empty
 * @param evidence what the finding rests on, or empty
 * @param nodeIds scene nodes concerned, possibly none
 * @param marks mesh elements concerned, possibly none
 * @param offers ways to put it right, best first
 */
public record Finding(
    String code,
    Severity severity,
    String where,
    String message,
    String measured,
    String evidence,
    List<Integer> nodeIds,
    List<Marks> marks,
    List<Offer> offers) {

  public Finding {
    nodeIds = List.copyOf(nodeIds);
    marks = List.copyOf(marks);
    offers = List.copyOf(offers);
  }

  public static Finding of(String code, Severity severity, String where, String message) {
    return new Finding(code, severity, where, message, "", "", List.of(), List.of(), List.of());
  }

  public Finding measured(String text) {
    return new Finding(code, severity, where, message, text, evidence, nodeIds, marks, offers);
  }

  public Finding evidence(String text) {
    return new Finding(code, severity, where, message, measured, text, nodeIds, marks, offers);
  }

  public Finding at(int nodeId, Marks... newMarks) {
    return new Finding(
        code,
        severity,
        where,
        message,
        measured,
        evidence,
        List.of(nodeId),
        List.of(newMarks),
        offers);
  }

  public Finding nodes(List<Integer> ids) {
    return new Finding(code, severity, where, message, measured, evidence, ids, marks, offers);
  }

  public Finding offer(Offer... newOffers) {
    return new Finding(
        code, severity, where, message, measured, evidence, nodeIds, marks, List.of(newOffers));
  }
}
