import { Refused } from '../api/client'
import { t } from '../i18n'

/** Passkeys need a secure page, and a browser that speaks JSON about them (Web Authentication, Level 3). */
export const canUsePasskeys = () =>
  window.isSecureContext && 'PublicKeyCredential' in window && 'parseRequestOptionsFromJSON' in PublicKeyCredential

async function tried(what: () => Promise<Credential | null>, reason: 'passkeyWrong' | 'passkeyNotMade'): Promise<string> {
  let credential: Credential | null = null
  try {
    credential = await what()
  } catch {
    // The person went back, or the browser has none that fits; it does not say which.
  }
  if (!(credential instanceof PublicKeyCredential)) throw new Refused(reason, t(`reason.${reason}`))
  return JSON.stringify(credential)
}

/** Answers the server's question with a passkey that this browser, or a device beside it, holds. */
export const showPasskey = (question: PublicKeyCredentialRequestOptionsJSON) =>
  tried(() => navigator.credentials.get({ publicKey: PublicKeyCredential.parseRequestOptionsFromJSON(question) }), 'passkeyWrong')

export const makePasskey = (question: PublicKeyCredentialCreationOptionsJSON) =>
  tried(
    () => navigator.credentials.create({ publicKey: PublicKeyCredential.parseCreationOptionsFromJSON(question) }),
    'passkeyNotMade',
  )
