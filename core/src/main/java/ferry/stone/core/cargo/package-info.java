/** The files of one asset: taken in safely, told apart, and read into one scene. */
package ferry.stone.core.cargo;
