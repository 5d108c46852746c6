/**
 * What is handed over: a proof with pictures of both sides, in one file that needs nothing else.
 */
package ferry.stone.core.report;
