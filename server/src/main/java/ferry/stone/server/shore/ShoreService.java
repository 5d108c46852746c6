package ferry.stone.server.shore;

import ferry.stone.core.format.Formats;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.shore.Shores;
import ferry.stone.server.web.ConflictException;
import ferry.stone.server.web.NotFoundException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Service;

/** Built-in shores and the users' own. */
@Service
public class ShoreService {
  private static final int MOST = 200;
  private final ShoreRepository repository;

  public ShoreService(ShoreRepository repository) {
    this.repository = repository;
  }

  /** Built-in ones first. */
  public List<Shore> all() {
    List<Shore> all = new ArrayList<>(Shores.builtIn());
    all.addAll(repository.all());
    return all;
  }

  public boolean isBuiltIn(String id) {
    return Shores.builtIn(id).isPresent();
  }

  public Shore get(String id) {
    return Shores.builtIn(id)
        .or(() -> repository.find(id))
        .orElseThrow(() -> new NotFoundException("There is no such shore; it may be deleted."));
  }

  /** The shore of a crossing: its own, else the one that was chosen last, else the usual one. */
  public Shore farOf(String chosen) {
    return java.util.Optional.ofNullable(chosen)
        .or(repository::last)
        .flatMap(id -> Shores.builtIn(id).or(() -> repository.find(id)))
        .orElseGet(Shores::usual);
  }

  public void remember(String id) {
    get(id);
    repository.remember(id);
  }

  /** Keeps a new shore; its id is made of its name. */
  public Shore add(Shore shore) {
    if (repository.all().size() >= MOST) {
      throw new IllegalArgumentException("At most 200 shores are kept. Delete some first.");
    }
    Formats.checkWritten(shore.formats());
    Shore own = shore.as(freeId(shore.name()), shore.name());
    repository.put(own);
    return own;
  }

  private String freeId(String name) {
    String plain =
        java.text.Normalizer.normalize(name, java.text.Normalizer.Form.NFD)
            .toLowerCase(Locale.ROOT)
            .replaceAll("[^a-z0-9]+", "-")
            .replaceAll("^-+|-+$", "");
    String stem = plain.isEmpty() ? "shore" : plain.substring(0, Math.min(50, plain.length()));
    String id = stem;
    for (int i = 2; Shores.builtIn(id).isPresent() || repository.find(id).isPresent(); i++) {
      id = stem + "-" + i;
    }
    return id;
  }

  public Shore change(String id, Shore shore) {
    refuseBuiltIn(id);
    get(id);
    Formats.checkWritten(shore.formats());
    Shore changed = shore.as(id, shore.name());
    repository.put(changed);
    return changed;
  }

  public void delete(String id) {
    refuseBuiltIn(id);
    get(id);
    repository.delete(id);
  }

  private void refuseBuiltIn(String id) {
    if (isBuiltIn(id)) {
      throw new ConflictException(
          "Built-in shores stay as they are. Copy it, then change the copy.");
    }
  }
}
