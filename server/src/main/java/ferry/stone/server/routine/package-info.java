/** Routines and the batches that go through them. */
package ferry.stone.server.routine;
