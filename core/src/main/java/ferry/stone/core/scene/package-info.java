/**
 * The scene: an immutable value that every reader fills and every writer empties.
 *
 * <p>Numbers stay as the source wrote them; {@link ferry.stone.core.scene.Scene#frame()} says what
 * they mean. Arrays are shared between scenes and are never written after construction.
 */
package ferry.stone.core.scene;
