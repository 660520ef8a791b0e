import type { Problem } from "../api/client";

/** Why something was refused, field by field. */
export function Refusal({ problem }: { problem: Problem }) {
  return (
    <div role="alert" className="border-l-4 border-error bg-error/10 rounded-r-box p-3 mb-4">
      <h2 className="font-bold text-error">{problem.title}</h2>
      {problem.errors?.length ? (
        <ul>
          {problem.errors.map((error) => (
            <li key={error.path + error.message}>
              {error.message} {error.path && <span className="text-sm">(at {error.path})</span>}
            </li>
          ))}
        </ul>
      ) : (
        <p>{problem.message}</p>
      )}
    </div>
  );
}
