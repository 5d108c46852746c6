/** The steps, by what they change. */
package ferry.stone.core.handling.step;
