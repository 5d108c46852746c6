/** Scenes from FBX records. */
package ferry.stone.core.format.fbx.read;
