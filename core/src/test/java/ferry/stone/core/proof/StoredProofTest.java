package ferry.stone.core.proof;

import static org.junit.jupiter.api.Assertions.assertEquals;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.format.losses.Capability;
import java.util.List;
import org.junit.jupiter.api.Test;

/** A proof as it is stored says its form; those stored before it did are read as well. */
class StoredProofTest {
  private static final ObjectMapper JSON = new ObjectMapper();

  @Test
  void aStoredProofComesBack() throws Exception {
    LedgerRow row =
        new LedgerRow(
            "Parts",
            "Faces",
            4,
            "12",
            "12",
            "11",
            "-1",
            LedgerRow.Verdict.LOST,
            "one is gone",
            Capability.POLYGONS);
    Proof proof = new Proof("a.glb", 120, 0.5, List.of(row), 0, 0, 1);
    String stored = JSON.writeValueAsString(proof);
    JsonNode tree = JSON.readTree(stored);
    assertEquals(Proof.SCHEMA, tree.path("schema").asInt());
    assertEquals(proof, JSON.readValue(stored, Proof.class));
  }

  @Test
  void oneWithoutANumberIsReadToo() throws Exception {
    String old =
        "{\"file\":\"a.glb\",\"bytes\":7,\"readSeconds\":0.25,\"rows\":[],\"kept\":3,\"changed\":2,"
            + "\"lost\":1}";
    Proof proof = JSON.readValue(old, Proof.class);
    assertEquals(3, proof.kept());
    assertEquals(7, proof.bytes());
  }
}
