/** The files of a cargo, and where a writer puts its own. */
package ferry.stone.core.format.files;
