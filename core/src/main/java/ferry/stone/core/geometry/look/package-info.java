/** Which faces of a mesh without a look are which of one that has it. */
package ferry.stone.core.geometry.look;
