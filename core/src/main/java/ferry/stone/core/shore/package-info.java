/** Destinations and sources: their conventions, limits, wishes and name rules. */
package ferry.stone.core.shore;
