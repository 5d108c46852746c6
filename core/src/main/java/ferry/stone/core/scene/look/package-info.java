/** Materials and their images. */
package ferry.stone.core.scene.look;
