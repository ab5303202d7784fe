"""Descriptions of pictures without what is said in them."""

import pytest

from juxtaform.core.text.english.unspoken import unspoken


@pytest.mark.parametrize(
    ("told", "shown"),
    [
        ("“What's in the case, madam?” asked the taller one.", "The taller one speaks."),
        ("“Skerry Island,” Tove said into the receiver.", "Tove speaks into the receiver."),
        ("“You have come!” cried the badger, and he pulled out a chair.", "The badger pulled out a chair."),
        ("“Rubbish,” said Noor, and held up the bag.", "Noor held up the bag."),
        ("“Rubbish,” said Noor gently, and held up the bag.", "Noor held up the bag."),
        ("“Come in,” said the old woman, “but shut the door.”", "The old woman speaks."),
        ("“He was never here,” she said, when Lasse came in.", "She speaks, when Lasse came in."),
        (
            "“It was an angel,” said Sister Clara at breakfast. Spoons hung in the air.",
            "Sister Clara speaks at breakfast. Spoons hung in the air.",
        ),
        ("“Yours?” asked the shopkeeper, who was a shrew.", "The shopkeeper, who was a shrew, speaks."),
        ("“Ladies,” Mr. Quill said one Tuesday, and he opened his bag, “may I?”", "Mr. Quill opened his bag."),
        ("Otto stamped his foot and said, “No!”", "Otto stamped his foot."),
        ("“You are needed.” Tuck thanked her and lay down.", "Tuck thanked her and lay down."),
        ("“All of us?” asked the umbrella.", "The umbrella speaks."),
        ("“I shall dance,” he used to say, “when somebody plays.”", "He speaks."),
        ("Anna said, “Go home.” Bert went.", "Anna speaks. Bert went."),
        ("He knelt down and said, “There you go.” Then he meowed.", "He knelt down. Then he meowed."),
        (
            "When the door opened, Mia said, “Come in,” and put down the cup.",
            "When the door opened, Mia put down the cup.",
        ),
        ("Mia shook her head. “No,” she said.", "Mia shook her head. She speaks."),
        ("“Whose heart is this?” he asked the mole.", "He speaks to the mole."),
        ("“Run!” they all cried together.", "They speak together."),
        ("The sign said “Closed”.", "The sign said “Closed”."),
        ("On the door was written “Keep out”.", "On the door was written “Keep out”."),
        ("Otto sat by the river.", "Otto sat by the river."),
        ("“Run!”", "“Run!”"),
    ],
)
def test_who_speaks_is_shown_with_what_they_do_and_without_the_words(told, shown):
    assert unspoken(told) == shown
