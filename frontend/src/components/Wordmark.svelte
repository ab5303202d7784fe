<script lang="ts"></script>

<span class="font-book text-[17px] leading-none tracking-tight select-none"><b class="font-semibold">juxta</b><i>form</i></span>
