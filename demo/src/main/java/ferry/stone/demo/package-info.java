/** Generates the demo world, the weir at Karrow, with its typical faults. Same seed, same bytes. */
package ferry.stone.demo;
