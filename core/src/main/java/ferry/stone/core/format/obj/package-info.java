/**
 * OBJ with MTL, after "Appendix B1. Object Files (.obj)", version 3.0, and "MTL material format",
 * version 4.2, as commonly published; PBR keys after the extension in common use.
 *
 * <p>Grammar, one statement a line, {@code \} at a line's end joins the next:
 *
 * <table>
 * <caption>Statements</caption>
 * <tr><td>{@code v x y z [w] [r g b]}</td><td>position, optional colour</td></tr>
 * <tr><td>{@code vt u [v [w]]}, {@code vn x y z}</td><td>UV, normal</td></tr>
 * <tr><td>{@code f v[/[t][/n]] …}</td><td>face; indices from 1, or below 0 counted from the end</td></tr>
 * <tr><td>{@code l v[/t] …}, {@code p v …}</td><td>polyline, points</td></tr>
 * <tr><td>{@code o}, {@code g}, {@code s}, {@code usemtl}, {@code mtllib}</td><td>state</td></tr>
 * </table>
 *
 * <p>No unit, no axes, no hierarchy. UV (0, 0) is the bottom left. Free-form curves and surfaces
 * are reported and not read. A position index out of range refuses the file; an index of a UV or
 * normal out of range drops that value and is reported.
 */
package ferry.stone.core.format.obj;
