/** What all format readers and writers share. One package below for each format. */
package ferry.stone.core.format;
