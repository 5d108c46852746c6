package ferry.stone.server.crossing;

import ferry.stone.core.survey.Inventory;
import java.util.List;

/** The survey as the page takes it. */
public record SurveyView(Inventory inventory, int checks, List<FindingView> findings) {}
