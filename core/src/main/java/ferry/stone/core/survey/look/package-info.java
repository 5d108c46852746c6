/** Checks of materials and their images. */
package ferry.stone.core.survey.look;
