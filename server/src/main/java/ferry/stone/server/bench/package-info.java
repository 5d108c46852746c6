/** The material bench: materials, their channels, and the images on them. */
package ferry.stone.server.bench;
