<script lang="ts">
  import type { FieldName } from '$lib/core/message/fields.ts';
  import { TABLE_FIELDS, type TableField, type Tell } from '$lib/core/rule/step-model.ts';
  import FieldText from '$lib/ui/words/FieldText.svelte';
  import PickMany from '$lib/ui/pick/PickMany.svelte';
  import { plainOptions } from '$lib/ui/pick/option.ts';
  import Line from './Line.svelte';

  /** The words and the table of a message that holds several tasks. */
  interface Props {
    step: Tell;
    suffix: string;
    fields: readonly FieldName[];
    onchange: (patch: Partial<Tell>) => void;
  }

  let { step, suffix, fields, onchange }: Props = $props();
  const setColumns = (chosen: TableField[]) =>
    onchange({
      columns: chosen.map(
        (field) => step.columns.find((one) => one.field === field) ?? { field, caption: '' }
      )
    });
  const setCaption = (field: TableField, caption: string) =>
    onchange({ columns: step.columns.map((one) => (one.field === field ? { ...one, caption } : one)) });
</script>

<Line label="several">
  <details>
    <summary class="quiet">Text for several tasks: “{step.several.subject}”</summary>
    <div class="sheet">
      <FieldText
        label="Subject for several tasks{suffix}"
        oneLine
        {fields}
        text={step.several.subject}
        onchange={(subject) => onchange({ several: { ...step.several, subject } })}
      />
      <FieldText
        label="Text for several tasks{suffix}"
        {fields}
        text={step.several.body}
        onchange={(body) => onchange({ several: { ...step.several, body } })}
      />
    </div>
    <div class="columns">
      <span class="quiet">table columns</span>
      <PickMany
        label="Columns of the table{suffix}"
        between=""
        blank="no columns"
        options={plainOptions(TABLE_FIELDS)}
        chosen={step.columns.map(({ field }) => field)}
        onchange={setColumns}
      />
    </div>
    <div class="columns">
      <span class="quiet">with the captions</span>
      {#each step.columns as column (column.field)}
        <input
          class="value caption"
          placeholder={column.field}
          aria-label="Caption of the column {column.field}{suffix}"
          maxlength="60"
          value={column.caption}
          onchange={(event) => setCaption(column.field, event.currentTarget.value)}
        />
      {/each}
    </div>
    <p class="quiet">Other people’s tasks are listed after the recipient’s own, with their owner.</p>
  </details>
</Line>

<style>
  details {
    width: 100%;
  }
  summary {
    cursor: pointer;
    padding-top: 5px;
  }
  .sheet {
    margin-top: 4px;
    border-radius: 7px;
  }
  .columns {
    display: flex;
    flex-wrap: wrap;
    gap: 5px;
    align-items: center;
    margin-top: 5px;
  }
  p {
    margin: 6px 0 0;
  }
  .caption {
    width: 92px;
  }
</style>
