/** Writes layers of USD as they are: as text, as crates, and as packages. */
package ferry.stone.core.format.usd.out;
