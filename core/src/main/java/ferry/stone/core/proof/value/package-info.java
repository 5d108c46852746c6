/** Compares what stands on parts beside their shape: custom values, at rest and over time. */
package ferry.stone.core.proof.value;
