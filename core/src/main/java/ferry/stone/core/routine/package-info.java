/**
 * Routines: what is done to every cargo alike, saved under a name, and their runs over many assets
 * without a person.
 */
package ferry.stone.core.routine;
