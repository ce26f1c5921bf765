<script lang="ts">
  import X from '@lucide/svelte/icons/x';

  /** Several people, in the order in which they were chosen. */
  interface Props {
    label: string;
    people: readonly { id: number; name: string; place: string }[];
    chosen: number[];
  }

  let { label, people, chosen = $bindable() }: Props = $props();
  const id = $props.id();
  const nameOf = (personId: number) => people.find((person) => person.id === personId)?.name;
</script>

<div class="field">
  <label for={id}>{label}</label>
  <div class="row">
    {#each chosen.filter((one) => nameOf(one)) as personId (personId)}
      <span class="one"
        >{nameOf(personId)}<button
          type="button"
          class="button plain"
          aria-label="Remove {nameOf(personId)}"
          onclick={() => (chosen = chosen.filter((one) => one !== personId))}><X size={13} /></button
        ></span
      >
    {/each}
    <select
      {id}
      class="value"
      value=""
      onchange={(event) => {
        const personId = Number(event.currentTarget.value);
        if (personId) chosen = [...chosen, personId];
        event.currentTarget.value = '';
      }}
    >
      <option value="">{chosen.length > 0 ? 'Add another' : 'No other owner'}</option>
      {#each people.filter((person) => !chosen.includes(person.id)) as person (person.id)}
        <option value={person.id}>{person.name} · {person.place}</option>
      {/each}
    </select>
  </div>
</div>

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    align-items: center;
  }
  .one {
    display: inline-flex;
    align-items: center;
    border: 1px solid var(--line);
    border-radius: 6px;
    padding-left: 8px;
    background: var(--sheet);
  }
  .one .button {
    min-height: 26px;
    padding-inline: 5px;
  }
</style>
