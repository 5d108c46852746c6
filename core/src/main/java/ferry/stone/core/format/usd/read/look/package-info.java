/** Materials of a stage, their images, and what they are bound to. */
package ferry.stone.core.format.usd.read.look;
