/** What becomes of each capability, and what the words of readers and writers mean. */
package ferry.stone.core.format.losses;
