/**
 * What readers of FBX expect of a file, held to files that landed. The format has no published
 * standard: each rule is common practice, no source, and each is broken by some reader's refusal.
 */
package ferry.stone.core.format.fbx.rules;
