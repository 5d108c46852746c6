/** What long work needs from its caller: progress out, cancel in. */
package ferry.stone.core.work;
