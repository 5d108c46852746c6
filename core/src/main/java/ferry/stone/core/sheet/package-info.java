/** Tables for people, as files that table programs and browsers open. */
package ferry.stone.core.sheet;
