/** Materials of a stage and their images. */
package ferry.stone.core.format.usd.write.look;
