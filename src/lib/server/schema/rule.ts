import Joi from 'joi';
import { AWAY_CHOICES } from '../../core/ring/reader.ts';
import { CLOSED_DAY_RULES, UNITS } from '../../core/ring/lead.ts';
import { LEAD_ANCHORS, MOST_LEADS, PHASES, PRIORITIES, type RuleDefinition } from '../../core/rule/model.ts';

const lead = Joi.object({
  id: Joi.string().max(40).required(),
  anchor: Joi.valid(...LEAD_ANCHORS).required(),
  n: Joi.number().integer().min(-1_000_000_000).max(1_000_000_000).required(),
  unit: Joi.valid(...UNITS).required(),
  closedDay: Joi.valid(...CLOSED_DAY_RULES).required(),
  time: Joi.string().max(5).empty('').allow(null).default(null),
  zone: Joi.alternatives(
    Joi.object({ of: Joi.valid('recipient', 'owner', 'project', 'workspace').required() }),
    Joi.object({ of: Joi.valid('named').required(), zone: Joi.string().max(60).required() })
  ).required(),
  on: Joi.boolean().default(true)
});

/** The shape of a rule's definition. What keeps it from being turned on is said by the core. */
export const ruleSchema = Joi.object<{ name: string; description: string; definition: RuleDefinition }>({
  name: Joi.string().allow('').trim().max(200).required(),
  description: Joi.string().allow('').trim().max(2_000).default(''),
  definition: Joi.object({
    watch: Joi.object({
      projects: Joi.array().items(Joi.number().integer().positive()).max(500).unique().allow(null).required(),
      phases: Joi.array()
        .items(Joi.valid(...PHASES))
        .unique()
        .required(),
      priorities: Joi.array()
        .items(Joi.valid(...PRIORITIES))
        .unique()
        .required()
    }).required(),
    leads: Joi.array().items(lead).max(MOST_LEADS).required(),
    tell: Joi.object({
      to: Joi.valid('owner', 'manager').allow(null).required(),
      channel: Joi.valid('mail').required(),
      reach: Joi.valid('working hours', 'outside quiet hours', 'any time').required(),
      away: Joi.valid(...AWAY_CHOICES).default('stand-in'),
      subject: Joi.string().allow('').max(500).required(),
      body: Joi.string().allow('').max(100_000).required()
    }).required()
  }).required()
});
