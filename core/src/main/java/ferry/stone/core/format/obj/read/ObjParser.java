package ferry.stone.core.format.obj.read;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.obj.raw.TextBlocks;
import ferry.stone.core.math.Figures;
import ferry.stone.core.work.Beside;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;

/**
 * Bytes of an OBJ to {@link ObjData}: blocks of the file are parsed on all cores and joined in
 * order.
 *
 * <p>A block that cannot be parsed without knowing what stands ahead of it (an index that counts
 * backwards, or a fault whose line number is to be told) is parsed again once that is known.
 */
final class ObjParser {
  private static final int BLOCK = 1 << 20;

  private final String resource;
  private final boolean wide;
  private final List<ObjData> parts = new ArrayList<>();
  private ObjData.Counts counts = ObjData.Counts.NONE;
  private volatile boolean countsNeeded;

  private ObjParser(String resource, boolean wide) {
    this.resource = resource;
    this.wide = wide;
  }

  /**
   * @param wide whether positions are kept as doubles
   * @param size length of the file in bytes, for progress
   */
  static ObjData parse(
      InputStream in,
      String resource,
      long size,
      boolean wide,
      Findings findings,
      Progress progress)
      throws IOException, FormatException {
    int block = (int) Math.min(BLOCK, size + 1);
    return parse(in, resource, size, wide, block, findings, progress);
  }

  static ObjData parse(
      InputStream in,
      String resource,
      long size,
      boolean wide,
      int block,
      Findings findings,
      Progress progress)
      throws IOException, FormatException {
    TextBlocks blocks = new TextBlocks(in, resource, block);
    ObjData data = new ObjParser(resource, wide).parse(blocks, size, progress);
    data.report.refuseIfEmpty(data);
    data.named.check(data, resource, findings);
    data.names.report(findings);
    data.report.add(findings);
    return data;
  }

  private record Pending(TextBlocks.Block block, Supplier<ObjData> parsed) {}

  private ObjData parse(TextBlocks blocks, long size, Progress progress)
      throws IOException, FormatException {
    int mostPending = 2 * Beside.cores();
    ArrayDeque<Pending> pending = new ArrayDeque<>();
    long read = 0;
    try (Beside beside = new Beside()) {
      TextBlocks.Block next = blocks.next();
      while (next != null || !pending.isEmpty()) {
        if (next != null && pending.size() < mostPending) {
          TextBlocks.Block block = next;
          pending.add(new Pending(block, beside.give(() -> ahead(block))));
          next = blocks.next();
          continue;
        }
        progress.checkCancelled();
        Pending first = pending.remove();
        read += first.block.length();
        append(first);
        progress.report(
            "reading " + resource + ", " + Figures.bytes(read),
            size == 0 ? 0 : (double) read / size);
      }
    }
    return ObjJoin.join(parts, resource);
  }

  /** Parses a block before its turn; {@code null} when that cannot be done. */
  private ObjData ahead(TextBlocks.Block block) {
    if (countsNeeded) {
      return null;
    }
    try {
      return parse(block, null);
    } catch (ObjIndices.CountsNeeded e) {
      countsNeeded = true;
      return null;
    } catch (FormatException e) {
      return null;
    }
  }

  private ObjData parse(TextBlocks.Block block, ObjData.Counts before) throws FormatException {
    ObjData data = new ObjData(resource, wide);
    ObjBlockParser.parse(block, resource, data, before);
    return data;
  }

  private void append(Pending next) throws FormatException {
    ObjData part = next.parsed.get();
    if (part == null) {
      part = parse(next.block, counts);
    }
    parts.add(part);
    counts = counts.plus(part);
  }
}
