package ferry.stone.core.report;

/** How a report looks: on a screen, on a phone, on paper. */
public final class ReportStyle {
  public static final String CSS =
      """
      :root{--ground:#f1eee6;--sheet:#faf8f3;--rule:#d6d0c2;--ink:#1c2a3a;--quiet:#51606f;
      --kept:#2f6b43;--changed:#7b570d;--lost:#b8371f;--view:#e3e8e6}
      @media (prefers-color-scheme:dark){:root{--ground:#0e1a22;--sheet:#13232d;--rule:#2b4250;
      --ink:#e4ebe9;--quiet:#a4b5bb;--kept:#7cc295;--changed:#dcb565;--lost:#f0876f;--view:#1f3541}}
      *{box-sizing:border-box}
      body{margin:0 auto;max-width:68rem;padding:1.5rem 1rem 4rem;background:var(--ground);
      color:var(--ink);font:1rem/1.5 system-ui,sans-serif}
      h1{font-size:1.6rem;line-height:1.2;margin:0 0 .3rem}h2{font-size:1.15rem;margin:2rem 0 .6rem}
      h3{font-size:1rem;margin:1.4rem 0 .2rem}summary h2{display:inline-block}
      .quiet,figcaption{color:var(--quiet);font-size:.85rem}
      .verdict{border-left:.4rem solid;padding:.6rem .9rem;background:var(--sheet);font-size:1.1rem}
      .kept{color:var(--kept)}.changed{color:var(--changed)}.lost{color:var(--lost)}
      .verdict{border-color:currentColor}
      .pictures{display:grid;grid-template-columns:repeat(auto-fill,minmax(15rem,1fr));gap:.8rem}
      figure{margin:0}figure img{width:100%;height:auto;background:var(--view);display:block}
      .wide{overflow-x:auto}
      table{border-collapse:collapse;width:100%;background:var(--sheet);font-size:.9rem}
      th,td{text-align:left;vertical-align:top;padding:.35rem .6rem;border-bottom:1px solid var(--rule)}
      tr.group th{padding-top:.9rem;font-weight:600}
      .num{font-variant-numeric:tabular-nums}
      .hash{font-family:ui-monospace,monospace;font-size:.75rem;word-break:break-all}
      @media print{:root{--ground:#fff;--sheet:#fff;--ink:#000;--quiet:#444;--view:#f2f2f2}
      body{max-width:none;padding:0;font-size:9pt}tr,figure{break-inside:avoid}
      .pictures{grid-template-columns:repeat(4,1fr)}thead{display:table-header-group}}
      """;

  private ReportStyle() {}
}
