/** What readers, checks and steps have to tell the user. */
package ferry.stone.core.finding;
