/** Steps that move, turn, scale and mirror, and what carries motion along. */
package ferry.stone.core.handling.step.place;
