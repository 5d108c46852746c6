/** The command line over the same core as the page. */
package ferry.stone.cli;
