package ferry.stone.core.proof;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

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
            Capability.POLYGONS,
            Measure.count(12, 12, 11),
            null,
            null);
    Proof proof = new Proof("a.glb", 120, 0.5, List.of(row), 0, 0, 1, 2.5);
    String stored = JSON.writeValueAsString(proof);
    JsonNode tree = JSON.readTree(stored);
    assertEquals(Proof.SCHEMA, tree.path("schema").asInt());
    assertEquals(proof, JSON.readValue(stored, Proof.class));
  }

  @Test
  void rowsOfTheFirstSchemaHaveNoNumbers() throws Exception {
    String old =
        "{\"schema\":1,\"file\":\"a.glb\",\"bytes\":7,\"readSeconds\":0.25,\"rows\":[{\"group\":\"Parts\","
            + "\"fact\":\"Faces\",\"nodeId\":4,\"near\":\"12\",\"far\":\"12\",\"landed\":\"11\","
            + "\"differs\":\"-1\",\"verdict\":\"LOST\",\"note\":\"\",\"about\":\"POLYGONS\"}],"
            + "\"kept\":0,\"changed\":0,\"lost\":1}";
    LedgerRow row = JSON.readValue(old, Proof.class).rows().get(0);
    assertEquals("11", row.landed());
    assertNull(row.measure());
    assertTrue(LedgerExport.csv(List.of(row)).endsWith(",\"\",,,,,,,\r\n"));
  }

  @Test
  void numbersStandBesideTheTexts() throws Exception {
    Ledger ledger = new Ledger();
    ledger.count("Faces", 4, 12, 12, 11, "one is gone");
    ledger.off(0.0025).add("Surface", 4, "", "", "", "2.500 mm", LedgerRow.Verdict.CHANGED, "");
    ledger.off(Double.NaN).add("Surface", 4, "", "", "", "—", LedgerRow.Verdict.KEPT, "");
    List<LedgerRow> rows = ledger.rows();
    assertEquals(new Measure("count", 12.0, 12.0, 11.0, -1.0), rows.get(0).measure());
    assertEquals(0.0025, rows.get(1).measure().differs());
    assertNull(rows.get(2).measure());
    String[] lines = LedgerExport.csv(rows).split("\r\n");
    assertTrue(lines[0].endsWith("Differs number,\"Seen within, m\",Within the shore's tolerance"));
    assertTrue(lines[1].endsWith(",count,12.0,12.0,11.0,-1.0,,"), lines[1]);
    assertTrue(lines[2].contains(",m,,,,0.0025,2.33"), lines[2]);
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
