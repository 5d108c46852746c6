/**
 * What a picture of a scene needs: its parts in the view's own unit and axes, meshes and motion in
 * blocks, curves, marks, and how far two states lie apart. No pixel is drawn here.
 */
package ferry.stone.core.view;
