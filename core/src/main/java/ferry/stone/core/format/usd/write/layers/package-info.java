/** One stage as several files: geometry, look and motion apart, parts and clips of their own. */
package ferry.stone.core.format.usd.write.layers;
