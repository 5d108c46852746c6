/** Any two assets held against each other, without a landing between them. */
package ferry.stone.server.pair;
