package ferry.stone.core.format.usd.compose;

import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdLayer;
import java.util.ArrayList;
import java.util.List;

/**
 * A layer with its sublayers, and theirs, the strongest first.
 *
 * @param identifier path of the first one
 * @param relocates what they move of what arcs bring in
 */
record LayerStack(String identifier, List<Member> members, Relocates relocates) {

  /**
   * A layer of the stack.
   *
   * @param times its time codes on those of the first layer
   */
  record Member(UsdLayer layer, TimeMap times) {}

  /** What one layer says of a prim. */
  record Spec(Member member, PrimSpec prim) {}

  /** What one layer says of a property. */
  record Said(Member member, PropertySpec property) {}

  UsdLayer root() {
    return members.get(0).layer();
  }

  /**
   * What the layers say of a prim, the strongest first.
   *
   * @param path with variants in braces: {@code /Yard{lamps=lit}mast}
   */
  List<Spec> specs(SitePath path) {
    List<Spec> specs = new ArrayList<>();
    for (Member member : members) {
      PrimSpec prim = path.in(member.layer().root());
      if (prim != null) {
        specs.add(new Spec(member, prim));
      }
    }
    return specs;
  }
}
