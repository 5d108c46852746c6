/** Scenes as layers of USD: what is held of them, and how each part of them is said. */
package ferry.stone.core.format.usd.write;
