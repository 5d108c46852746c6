/** Steps that say what the source's numbers mean. */
package ferry.stone.core.handling.step.meaning;
