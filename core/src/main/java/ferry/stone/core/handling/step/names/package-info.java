/** Steps on names. */
package ferry.stone.core.handling.step.names;
