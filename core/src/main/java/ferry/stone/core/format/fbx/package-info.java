/** FBX: the record tree in its binary and text forms, and scenes read from it. */
package ferry.stone.core.format.fbx;
