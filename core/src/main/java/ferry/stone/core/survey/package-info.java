/** What a scene holds, what is wrong with it, and what its numbers probably mean. */
package ferry.stone.core.survey;
