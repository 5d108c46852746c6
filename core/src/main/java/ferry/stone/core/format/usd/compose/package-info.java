/** Layers put together: which opinions there are of each prim, the strongest first. */
package ferry.stone.core.format.usd.compose;
