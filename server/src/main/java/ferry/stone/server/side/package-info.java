/** What is sent of a side of a crossing: all of it, or what is other than what a page has. */
package ferry.stone.server.side;
