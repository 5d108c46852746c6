/** Steps: small pure changes of a scene with typed parameters, replayed in order. */
package ferry.stone.core.handling;
