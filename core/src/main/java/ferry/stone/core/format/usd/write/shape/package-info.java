/** Shapes of a stage, with what lies over them and their blend shapes. */
package ferry.stone.core.format.usd.write.shape;
