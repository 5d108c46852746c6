/** Compares what landed with what left: kept, changed, lost, with numbers. */
package ferry.stone.core.proof;
