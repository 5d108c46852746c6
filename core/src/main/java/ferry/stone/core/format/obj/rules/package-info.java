/**
 * What the text of an OBJ and its materials has to be, held to files that landed: Wavefront,
 * "Object Files (.obj)" and "MTL material format", appendix B of its user's guide (1995). Colours
 * behind positions, and the physically based values of materials, are common practice, no source.
 */
package ferry.stone.core.format.obj.rules;
