/** What materials reflect, whichever model they are written in, and one model made of another. */
package ferry.stone.core.texture.model;
