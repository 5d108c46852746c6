package ferry.stone.core.format;

import java.util.List;

/**
 * What a format is called and what our code does with it.
 *
 * @param id short name used on the command line, e.g. {@code glb}
 * @param extensions without the dot, the usual one first
 * @param mediaType for downloads
 */
public record FormatInfo(
    String id,
    String label,
    List<String> extensions,
    String mediaType,
    boolean reads,
    boolean writes) {}
