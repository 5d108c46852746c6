package ferry.stone.core.format.gltf.draco;

import java.util.Arrays;

/**
 * The order in which values of an attribute follow each other: that in which its vertices are come
 * to from face to face (specification, section "Attribute Traversal").
 */
final class Traversal {
  private static final int PRIORITIES = 3;

  /** Corner at which each value was come to. */
  final int[] corners;

  /** Value of each vertex; −1 for one that no face has. */
  final int[] valueOf;

  int count;
  private final Corners table;
  private final boolean[] visited;

  private Traversal(Corners table) {
    this.table = table;
    corners = new int[table.vertexCount()];
    valueOf = new int[table.vertexCount()];
    Arrays.fill(valueOf, -1);
    visited = new boolean[table.faceCount()];
  }

  static Traversal of(Corners table, boolean byDegree) throws DracoException {
    Traversal traversal = new Traversal(table);
    if (byDegree) {
      new ByDegree(traversal).run();
    } else {
      traversal.depthFirst();
    }
    return traversal;
  }

  private void visit(int vertex, int corner) throws DracoException {
    if (vertex < 0 || count == corners.length && valueOf[vertex] < 0) {
      throw new DracoException("a corner has no vertex");
    }
    if (valueOf[vertex] < 0) {
      corners[count] = corner;
      valueOf[vertex] = count++;
    }
  }

  private boolean isVisited(int corner) {
    return corner < 0 || visited[corner / 3];
  }

  private void depthFirst() throws DracoException {
    int[] stack = new int[64];
    for (int face = 0; face < table.faceCount(); face++) {
      if (visited[face]) {
        continue;
      }
      int start = 3 * face;
      visit(table.vertex(Corners.next(start)), Corners.next(start));
      visit(table.vertex(Corners.previous(start)), Corners.previous(start));
      int depth = 0;
      stack[depth++] = start;
      while (depth > 0) {
        int corner = stack[depth - 1];
        if (isVisited(corner)) {
          depth--;
          continue;
        }
        while (true) {
          visited[corner / 3] = true;
          int vertex = table.vertex(corner);
          if (vertex < 0) {
            throw new DracoException("a corner has no vertex");
          }
          if (valueOf[vertex] < 0) {
            visit(vertex, corner);
            if (!table.isOnBoundary(vertex)) {
              corner = table.right(corner);
              continue;
            }
          }
          int right = table.right(corner);
          int left = table.left(corner);
          boolean rightDone = isVisited(right);
          boolean leftDone = isVisited(left);
          if (rightDone && leftDone) {
            depth--;
            break;
          }
          if (!rightDone && !leftDone) {
            stack[depth - 1] = left;
            if (depth == stack.length) {
              stack = Arrays.copyOf(stack, 2 * depth);
            }
            stack[depth++] = right;
            break;
          }
          corner = rightDone ? left : right;
        }
      }
    }
  }

  /** Vertices that more faces speak of come first. */
  private static final class ByDegree {
    private final Traversal to;
    private final Corners table;
    private final int[] degree;
    private final int[][] stacks = new int[PRIORITIES][64];
    private final int[] depth = new int[PRIORITIES];
    private int best;

    ByDegree(Traversal to) {
      this.to = to;
      table = to.table;
      degree = new int[table.vertexCount()];
    }

    void run() throws DracoException {
      for (int face = 0; face < table.faceCount(); face++) {
        from(3 * face);
      }
    }

    private void from(int start) throws DracoException {
      push(start, 0);
      best = 0;
      to.visit(table.vertex(Corners.next(start)), Corners.next(start));
      to.visit(table.vertex(Corners.previous(start)), Corners.previous(start));
      to.visit(table.vertex(start), start);
      for (int corner = pop(); corner >= 0; corner = pop()) {
        if (!to.visited[corner / 3]) {
          walk(corner);
        }
      }
    }

    private void walk(int start) throws DracoException {
      int corner = start;
      while (true) {
        to.visited[corner / 3] = true;
        to.visit(table.vertex(corner), corner);
        int right = table.right(corner);
        int left = table.left(corner);
        boolean rightDone = to.isVisited(right);
        if (!to.isVisited(left)) {
          int priority = priority(left);
          if (rightDone && priority <= best) {
            corner = left;
            continue;
          }
          push(left, priority);
        }
        if (!rightDone) {
          int priority = priority(right);
          if (priority <= best) {
            corner = right;
            continue;
          }
          push(right, priority);
        }
        return;
      }
    }

    private int priority(int corner) throws DracoException {
      int tip = table.vertex(corner);
      if (tip < 0) {
        throw new DracoException("a corner has no vertex");
      }
      return to.valueOf[tip] >= 0 ? 0 : ++degree[tip] > 1 ? 1 : 2;
    }

    private void push(int corner, int priority) {
      if (depth[priority] == stacks[priority].length) {
        stacks[priority] = Arrays.copyOf(stacks[priority], 2 * depth[priority]);
      }
      stacks[priority][depth[priority]++] = corner;
      best = Math.min(best, priority);
    }

    private int pop() {
      for (int i = best; i < PRIORITIES; i++) {
        if (depth[i] > 0) {
          best = i;
          return stacks[i][--depth[i]];
        }
      }
      return -1;
    }
  }
}
