package ferry.stone.core.format.obj.rules;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.BrokenRules;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.HashSet;
import java.util.Set;

/**
 * Goes over the lines of an OBJ one by one, without the reader's forgiveness: a reference counts
 * what stands before it, a number is a number. O(n) in the bytes of the file.
 */
public final class ObjRules {
  private static final Set<String> STATEMENTS =
      Set.of(
          "v",
          "vt",
          "vn",
          "vp",
          "f",
          "fo",
          "l",
          "p",
          "g",
          "o",
          "s",
          "mg",
          "usemtl",
          "mtllib",
          "usemap",
          "maplib",
          "bevel",
          "c_interp",
          "d_interp",
          "lod",
          "shadow_obj",
          "trace_obj",
          "cstype",
          "deg",
          "bmat",
          "step",
          "curv",
          "curv2",
          "surf",
          "parm",
          "trim",
          "hole",
          "scrv",
          "sp",
          "end",
          "con",
          "call",
          "csh");

  private static final int BLOCK = 1 << 16;
  private static final int KINDS = 3;

  private final BrokenRules rules;
  private final Resources files;
  private final String resource;
  private final Set<String> materials = new HashSet<>();

  /** How many positions, UVs and normals stand so far. */
  private final int[] counts = new int[KINDS];

  private byte[] line = new byte[256];
  private int length;
  private int at;
  private long number;

  private ObjRules(String resource, Resources files, BrokenRules rules) {
    this.resource = resource;
    this.files = files;
    this.rules = rules;
  }

  /** Tells each rule that is broken once, with the first place and how often. */
  public static void check(String resource, Resources files, Findings findings) throws IOException {
    BrokenRules rules = new BrokenRules();
    new ObjRules(resource, files, rules).all();
    rules.tell(resource, findings);
  }

  private void all() throws IOException {
    byte[] block = new byte[BLOCK];
    try (InputStream in = files.open(resource)) {
      for (int n = in.read(block); n >= 0; n = in.read(block)) {
        for (int i = 0; i < n; i++) {
          if (block[i] == '\n') {
            ended();
          } else {
            add(block[i]);
          }
        }
      }
    }
    if (length > 0) {
      ended();
    }
  }

  private void add(byte b) {
    if (length == line.length) {
      line = Arrays.copyOf(line, 2 * length);
    }
    line[length++] = b;
  }

  private void ended() throws IOException {
    number++;
    if (length > 0 && line[length - 1] == '\r') {
      length--;
    }
    // A backslash at its end joins a line with the next.
    if (length > 0 && line[length - 1] == '\\') {
      line[length - 1] = ' ';
      return;
    }
    at = 0;
    skip();
    if (at < length && line[at] != '#') {
      statement();
    }
    length = 0;
  }

  private void skip() {
    while (at < length && (line[at] == ' ' || line[at] == '\t')) {
      at++;
    }
  }

  private boolean isWord(int from, int to) {
    return to < length && line[to] != ' ' && line[to] != '\t' && to >= from;
  }

  private String where() {
    return "line " + number;
  }

  private void statement() throws IOException {
    int from = at;
    while (isWord(from, at)) {
      at++;
    }
    int size = at - from;
    if (size == 1 && line[from] == 'v') {
      int found = numbers();
      hold(found == 3 || found == 4 || found == 6 || found == 7, "A position is not 3 numbers.");
      counts[0]++;
    } else if (size == 2 && line[from] == 'v' && line[from + 1] == 't') {
      int found = numbers();
      hold(found >= 1 && found <= 3, "A UV is not 1 to 3 numbers.");
      counts[1]++;
    } else if (size == 2 && line[from] == 'v' && line[from + 1] == 'n') {
      hold(numbers() == 3, "A normal is not 3 numbers.");
      counts[2]++;
    } else if (size == 1 && (line[from] == 'f' || line[from] == 'l' || line[from] == 'p')) {
      corners(line[from]);
    } else {
      others(new String(line, from, size, StandardCharsets.UTF_8));
    }
  }

  private void hold(boolean holds, String rule) {
    if (!holds) {
      rules.broken(where(), rule);
    }
  }

  private void others(String name) throws IOException {
    skip();
    String rest = new String(line, at, length - at, StandardCharsets.UTF_8).strip();
    switch (name) {
      case "mtllib" -> library(rest);
      case "usemtl" ->
          hold(
              rest.equals("off") || materials.contains(rest),
              "A material is used that no library before it says.");
      case "s" ->
          hold(
              rest.equals("off") || rest.matches("\\d+"),
              "A smoothing group is neither a number nor off.");
      default -> hold(STATEMENTS.contains(name), "There is no statement of this name.");
    }
  }

  private void library(String rest) throws IOException {
    String folder = CargoPath.folder(resource);
    // A name may hold spaces, or several may stand in one line.
    boolean whole = files.contains(CargoPath.resolve(folder, rest));
    for (String name : whole ? new String[] {rest} : rest.split("\\s+")) {
      String path = CargoPath.resolve(folder, name);
      if (files.contains(path)) {
        new MtlRules(path, files, rules).all(materials);
      } else {
        rules.broken(where(), "A library of materials is not where its path says.");
      }
    }
  }

  /** How many numbers follow; −1 where something else does. */
  private int numbers() {
    int count = 0;
    boolean plain = true;
    for (skip(); at < length; skip()) {
      int from = at;
      boolean digits = false;
      while (isWord(from, at)) {
        byte b = line[at];
        boolean digit = b >= '0' && b <= '9';
        boolean sign = (b == '-' || b == '+') && (at == from || isExponent(line[at - 1]));
        digits |= digit;
        plain &= digit || sign || b == '.' || isExponent(b) && digits;
        at++;
      }
      plain &= digits;
      count++;
    }
    hold(plain, "Something stands where a number has to.");
    return count;
  }

  private static boolean isExponent(byte b) {
    return b == 'e' || b == 'E';
  }

  /** Corners of a face, line or point: all of one form, of what stands before. */
  private void corners(byte kind) {
    int count = 0;
    int form = -1;
    for (skip(); at < length; skip()) {
      int own = corner();
      hold(form < 0 || own == form, "The corners of a statement are not all of one form.");
      form = own;
      count++;
    }
    hold(
        count >= (kind == 'f' ? 3 : kind == 'l' ? 2 : 1),
        "A statement has fewer corners than it needs.");
  }

  /** One corner; which of its three references it has, a bit each. */
  private int corner() {
    int form = 0;
    int from = at;
    for (int kind = 0; kind < KINDS; kind++) {
      boolean negative = at < length && line[at] == '-';
      at += negative ? 1 : 0;
      int digits = at;
      long value = 0;
      while (at < length && line[at] >= '0' && line[at] <= '9') {
        value = Math.min(10 * value + line[at++] - '0', Integer.MAX_VALUE);
      }
      if (at > digits) {
        form |= 1 << kind;
        hold(
            value > 0 && value <= counts[kind],
            "A corner names what does not stand before it in the file.");
      }
      if (at < length && line[at] == '/') {
        at++;
      } else {
        break;
      }
    }
    if (isWord(from, at) || (form & 1) == 0) {
      rules.broken(where(), "A corner is not said as v, v/vt, v//vn or v/vt/vn.");
      while (isWord(from, at)) {
        at++;
      }
    }
    return form;
  }
}
