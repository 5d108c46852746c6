/** Writes a far side in a format for a shore. */
package ferry.stone.core.landing;
