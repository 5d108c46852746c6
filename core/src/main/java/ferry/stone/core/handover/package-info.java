/**
 * A landing or a proof as one HTML page with the asset inside, to be looked at without a server.
 */
package ferry.stone.core.handover;
