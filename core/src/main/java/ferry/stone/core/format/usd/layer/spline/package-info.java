/** Curves that say a value over time: how layers hold them, and what they are at a moment. */
package ferry.stone.core.format.usd.layer.spline;
