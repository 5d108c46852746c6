/** Two scenes held against each other: any two files, and both sides before anything has landed. */
package ferry.stone.core.proof.pair;
