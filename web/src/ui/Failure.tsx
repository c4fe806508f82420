/** Why something could not be done, in the server's sentence; nothing while all went well. */
export function Failure({ of, className = '' }: { of: readonly (Error | null)[]; className?: string }) {
  const error = of.find((one) => one !== null)
  return (
    error && (
      <p role="alert" className={`text-[0.875rem] font-medium text-brick ${className}`}>
        {error.message}
      </p>
    )
  )
}
