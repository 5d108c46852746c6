/** Records, properties and keys as an FBX file writes them, in both of its forms. */
package ferry.stone.core.format.fbx.raw;
