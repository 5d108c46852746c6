/** FBX records from scenes. */
package ferry.stone.core.format.fbx.write;
