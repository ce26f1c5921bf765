import type { TlsChoice } from '../../core/channel/settings.ts';

/** A mail server that takes our messages over. */
export interface MailRoute {
  host: string;
  port: number;
  /** Absent: none. */
  tls?: TlsChoice;
  /** With whose name and password we come in; absent: with nobody's. */
  user?: string;
  password?: string;
  /** Certificates (PEM) by which the server is trusted, where it is the team's own; absent: those that the machine trusts. */
  ca?: string;
  /** It was set by somebody here; absent where the server was started with it. */
  isSet?: boolean;
}
