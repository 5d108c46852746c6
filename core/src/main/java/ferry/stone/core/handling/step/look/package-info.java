/** Steps that put looks on parts that came without. */
package ferry.stone.core.handling.step.look;
