/** Names and values in two columns. */
export function FactList({ facts }: { facts: [string, string][] }) {
  return (
    <dl>
      {facts.map(([name, value]) => (
        <div key={name} style={{ display: 'contents' }}>
          <dt>{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  );
}
