package ferry.stone.core.handling.step;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.StepKind;
import java.util.List;

/** What every kind of step says of itself; a step adds what it does. */
public abstract class BasicStep<P extends Record> implements StepKind<P> {
  private final Group group;
  private final String kind;
  private final String label;
  private final String help;
  private final Class<P> paramType;
  private final List<Field> fields;
  private final boolean takesSelection;

  public BasicStep(
      Group group,
      String kind,
      String label,
      String help,
      Class<P> paramType,
      boolean takesSelection,
      Field... fields) {
    this.group = group;
    this.kind = kind;
    this.label = label;
    this.help = help;
    this.paramType = paramType;
    this.takesSelection = takesSelection;
    this.fields = List.of(fields);
  }

  @Override
  public Group group() {
    return group;
  }

  @Override
  public String kind() {
    return kind;
  }

  @Override
  public String label() {
    return label;
  }

  @Override
  public String help() {
    return help;
  }

  @Override
  public Class<P> paramType() {
    return paramType;
  }

  @Override
  public List<Field> fields() {
    return fields;
  }

  @Override
  public boolean takesSelection() {
    return takesSelection;
  }
}
