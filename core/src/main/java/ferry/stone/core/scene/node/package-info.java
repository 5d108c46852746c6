/** Nodes of the hierarchy: where they stand and what they show; skins, cameras and lights. */
package ferry.stone.core.scene.node;
