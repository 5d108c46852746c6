/** What formats share that hold bare parts, without a hierarchy of their own. */
package ferry.stone.core.format.flat;
