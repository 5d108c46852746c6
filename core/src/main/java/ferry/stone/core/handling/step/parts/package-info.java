/** Steps that join, split, group and remove parts. */
package ferry.stone.core.handling.step.parts;
