import { json } from '@sveltejs/kit';
import { readTextReference } from '$lib/core/channel/text-address.ts';
import { CodedError } from '$lib/core/errors.ts';
import { read } from '$lib/server/input/fields.ts';
import { isReceiptAddress } from '$lib/server/message/receipts.ts';
import { receiptSchema } from '$lib/server/message/receipt-schema.ts';
import { jsonOf } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** A receipt of the gateway for text messages: nobody else knows the address. */
export const POST: RequestHandler = async ({ params, request, locals: { app } }) => {
  if (!isReceiptAddress(app, params.key))
    return json({ message: 'There is nothing at this address.' }, { status: 404 });
  let input;
  try {
    input = read(receiptSchema, await jsonOf(request));
  } catch (failure) {
    if (!(failure instanceof CodedError)) throw failure;
    return json({ message: failure.message }, { status: 400 });
  }
  if (!input.ok) return json({ message: 'This is no receipt.', errors: input.errors }, { status: 400 });
  const { reference, status, reason } = input.value;
  const { messageId, phone } = readTextReference(reference);
  const known = app.outbox.receipt('text', messageId, phone, status === 'arrived' ? null : reason);
  // A receipt of what is not known is no fault of the gateway: it need not bring it again.
  return json({ known });
};
