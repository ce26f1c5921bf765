import Joi from 'joi';

/** What a gateway says became of a text message that it had taken. */
export interface ReceiptInput {
  /** As it was sent along with the message: its Message-ID and the address. */
  reference: string;
  status: 'arrived' | 'failed';
  reason: string;
}

export const receiptSchema = Joi.object<ReceiptInput>({
  reference: Joi.string()
    .max(600)
    .pattern(/^<[^<>\s]+> .+$/)
    .required(),
  status: Joi.valid('arrived', 'failed').required(),
  reason: Joi.string().allow('').max(300).default('no reason given')
});
