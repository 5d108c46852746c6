/** Points along curves, by the forms curves have. */
package ferry.stone.core.geometry.curve;
