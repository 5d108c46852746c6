/**
 * Named parameters with their types, ranges and words: what forms and command lines are drawn from.
 */
package ferry.stone.core.field;
