"""Words that are taken for each other, by a table of turns of phrase in which only one can be meant."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import cache, cached_property

from mobbet.core.proofing.checks.words import WORD
from mobbet.core.proofing.marks import Mark, Why, replaced
from mobbet.core.proofing.material import Material, OfPassage
from mobbet.core.proofing.passages import Passage
from mobbet.core.values import existing

_PLACES = "of|in|on|from|with|by|at|under|inside|into|against|onto|above|beneath|around|through|over|for|about|off|behind"
_THINGS = "own|names?|hands?|tools?|houses?|homes?|children|neighbours?|friends?|famil(?:y|ies)|parents|lamps?|radios?|bikes?|kettles?|shoes|coats|bags|jobs?|turn|owners?|benches|chairs?|clocks?"
_ARTICLE = "the|a|an|my|your|his|her|its|our|their|this|that|these|those"
_AIDS = "is|are|was|were|has|have|had|will|would|can|could|should|must|may|might|do|does|did"
_STOP = r"(?=\s*(?:[.,;:!?)]|$))"
_NOT_NOUN = rf"(?!\s+(?:{_ARTICLE}|not|been|very|too|so|just|only|all|about|also|still|going|getting|being|hard|easy|best|good|better|worth|time|raining|ready|likely|fine|important|like|as|what|how|why|where|when|who|because|if|in|on|at|to|for|with|and|but|or|always|never|really|quite|no|now|there|here|done|made|possible|clear|true|enough|one|more|less|easier|harder|often|probably|usually|perhaps|safe|dead|cold|hot|warm|nice|late|broken|gone|working)\b)\s+[a-z]"
_QUALITIES = "possible|clear|worth|likely|better|best|fine|good|great|true|raining|ready|done|made|gone|broken|safe|cold|hot|warm|dead|nice|late|early|hard|easy|important|fun|simple|dangerous|cheap|over|necessary|amazing|strange|odd"
_MORE = "more|less|fewer|rather|other|better|worse|larger|smaller|longer|shorter|older|newer|faster|slower|higher|lower|bigger|brighter|darker|harder|softer|easier|heavier|lighter|thicker|thinner|cheaper|dearer|stronger|weaker|wider|narrower|deeper|hotter|colder|warmer|cooler|louder|quieter|cleaner|nicer|simpler|safer|sooner|tighter|looser|greater|younger|kinder|taller|closer|further|farther"
_COMPARED = r"the|a|an|any|it|we|i|you|he|she|they|me|him|us|them|before|ever|usual|expected|most|all|one|two|three|four|five|six|ten|\d+|this|that|my|your|our|his|her|its|their|necessary|needed|new|others?|half|twice|ours|mine|yours|what"

_BEGINNING = r"(?:^|[.!?]\s)"
"""Stands first in what comes before where that may be the beginning of a sentence."""

# fmt: off
TABLE: tuple[tuple[str, str, str, str], ...] = (
    ("it['’]s", "its", _PLACES + "|lost|has|had|have|needs?|keeps?|holds?|lift|lifts|open|opens", _NOT_NOUN),
    ("it['’]s", "its", "", r"\s+(?:own|weight|edge|lid|owner|maker|cover|case|contents|purpose|shape|size|handle|base|battery|cable|plug|wheels?|motor)\b(?!\s+(?:to|not|that|who|which))"),
    ("it['’]s", "its", "", rf"\s+(?!(?:{_ARTICLE}|what|how|where|who|when|why|if|all|not|because|no|one|only|it)\b)[a-z]+\s+(?:is|are|was|were|has|had)\b"),
    ("its", "it’s", "", r"\s+(?:a|an|the|not|been|too|going|also|only|just|no|because|called|always|never|really|getting|been|already|still|probably|what|where|how|why|when|like|me|you|there|here|up\s+to|one\s+of|about\s+to|very\s+(?:good|hard|easy|cold|hot|nice|late|important|old|simple|slow|quiet|heavy))\b"),
    ("its", "it’s", "", rf"\s+(?:{_QUALITIES})(?=\s*(?:[.,;:!?]|to\b|that\b|if\b|when\b|because\b|but\b|for\b|$))"),
    ("their", "there", "", r"\s+(?:is|are|was|were|will\s+be|has|have|isn|aren|wasn|weren|must|may|might|seems?|used\s+to\s+be|once\s+was)\b"),
    ("there", "their", "", r"\s+(?:own|names?|hands|tools|houses?|homes?|children|neighbours?|friends|famil(?:y|ies)|parents|lamps|radios|bikes|shoes|coats|jobs?)\b(?!\s+(?:is|are|was|were|in)\b)"),
    ("there", "their", "with|of|for|about|bring|brings|brought|lost|forgot|mended|fixed|repaired", rf"\s+(?!(?:{_AIDS}|to|and|in|on|at|by|for|where|it|the|we|you|i|they|again|too|now|as|with|since|until|before|after|still|all|already|or|but|when|if|seems?|being|goes|go|from|last|yesterday|today|no|once|exists?|remains?)\b)[a-z]+"),
    ("there", "their", "put|use|used|open|opened|left|need|needed|love|want|wanted|keep|kept|check|checked|clean|cleaned|hold|held|show|showed|sold|bought|wash|washed|close|closed|wear|wore", r"\s+(?!(?:was|is|always|sometimes|this|has|does|besides|perhaps|towards|afterwards|seems|as|us|years|days|weeks|months|hours|minutes|on\w*)\b)[a-z]{2,}s\b(?!\s+(?:a|the|an|it|to)\b)"),
    ("they['’]re", "their", "", rf"\s+(?:{_THINGS})\b(?!\s+(?:and|of|with|now)\b)"),
    ("they['’]re", "their", _PLACES + "|bring|brought|lost|forgot|took|take|mended|fixed", _NOT_NOUN),
    ("their", "they’re", "", r"\s+(?:not|the|a|an|also|just|already|too|so|really|going\s+to|trying\s+to|getting|afraid|ready\s+to|always(?!-)|never|here|all\s+(?:gone|here|there|the|in|on))\b"),
    ("there", "they’re", "", r"\s+(?:going\s+to|trying\s+to|not\s+going|about\s+to\s+be)\b"),
    ("your", "you’re", "", r"\s+(?:welcome|going\s+to|not|a|an|the|so|too|always|never|ready\s+to|lucky|wrong|very(?!\s+own)|really|still|just|allowed|able|about\s+to|unsure|likely\s+to|trying\s+to|looking\s+(?:for|at)|getting|here|there|in|on|at|out|invited|right\s+(?:about|that|to)|sure\s+(?:that|of|the|it|you)|being)\b"),
    ("your", "you’re", "if|when|because|that|while|once|as|hope|think|unless|whether|until|where", r"\s+(?:done|finished|sure|right|ready|happy|lost|stuck|new|careful|tired|alone|interested|unhappy|late)(?=\s*(?:[.,;:!?]|with\b|to\b|of\b|that\b|and\b|$))"),
    ("you['’]re", "your", "", r"\s+(?:own|hands?|tools?|lamps?|radio|bench|kettle|bike|name|address|friends?|neighbours?|shoes|kitchen|fuse|iron)\b(?!\s+(?:and|of|now)\b)"),
    ("you['’]re", "your", _PLACES + "|bring|take|use|turn|open|check|hold|keep|put|clean|send|wash|leave|unplug|mend|lose", _NOT_NOUN),
    ("to", "too", "", r"\s+(?:much|many|often|late|early|soon|little|few)(?=\s*(?:[.,;:!?]|\w))(?!\s*-)"),
    ("to", "too", "is|was|are|were|be|been|seems?|looks|feels|felt|it['’]s|got|gets|way|far|much", r"\s+(?:big|small|hot|cold|long|short|tight|hard|fast|heavy|thick|thin|high|wide|deep|old|weak|strong|bright|dark|loud|quickly|far|dear|expensive|dangerous|difficult|large|easy|late|complicated|close|good|bad|young|stiff|sharp|soft)(?=\s*(?:[.,;:!?]|to\b|for\b|and\b|$))"),
    ("to", "too", r"(?:happened|happens|thanks?|loves?|hates?|annoyed|surprised|pleased|suits|hurt|for|with|from|like|about|of|bothers|puzzled|helped|works\s+for|happened\s+to|happens\s+to)\s+(?:me|him|us|them|you)", r"(?=[.!])"),
    ("to", "too", r"[a-z]+,", r"(?=[.!])"),
    ("too", "to", "", rf"\s+(?:{_ARTICLE})\s+\w+(?!\s*\?)"),
    ("too", "to", "want(?:s|ed)?|need(?:s|ed)?|going|able|tr(?:y|ies|ied|ying)|how|decided|began|started|used|ready|order|way|easy|hard|time|have|has|had|what|where|nothing|you|likes?|learn(?:ed)?|hope|ought", r"\s+(?:be|do|go|make|use|see|get|have|take|look|keep|find|put|give|say|fix|mend|repair|bring|buy|come|help|learn|test|check|replace|remove|wait|know|try|turn|throw|choose|ask|tell|show|read|write)\b"),
    ("then", "than", _MORE, rf"\s+(?:{_COMPARED})\b"),
    ("then", "than", r"(?:more|less)\s+\w+", rf"\s+(?:{_COMPARED})\b"),
    ("than", "then", "and|since|until|till|back|now\\s+and|first,|but|by|only|right|just", rf"\b(?!\s+(?:{_ARTICLE})\s+(?:other|rest|last)\b)"),
    ("loose", "lose", "to|will|not|may|might|can|could|would|you|we|they|never|don['’]t|won['’]t|didn['’]t|i|always|or|often|easily|people", rf"\s+(?:{_ARTICLE}|it|them|track|time|money|weight|heat|power|sight|patience|count|interest|one|any|everything|nothing|control|contact|grip|heart)\b"),
    ("loosing", "losing", "", r"\s+(?:the|a|an|my|your|his|her|its|our|their|it|track|time|money|weight|heat|power|sight|patience|interest|one|control|grip)\b"),
    ("looses", "loses", "", r"\s+(?:the|a|an|its|his|her|their|it|heat|power|weight|time|money|interest|grip|contact|colou?r)\b"),
    ("lose", "loose", "a|the|any|one|some|this|that|every|each|two", r"\s+(?:screws?|wires?|tooth|ends?|threads?|connections?|bolts?|nuts?|change|fit|cables?|contacts?|buttons?|knobs?|joints?|parts?|pages?|fittings?|handles?|springs?)\b"),
    ("lose", "loose", "is|was|are|were|came|come|comes|gets|got|worked|works?|hangs?|hung|breaks?|broke|too|very|quite", r"\b(?!\s+(?:the|a|an|my|your|his|her|its|our|their|it|them|money|time)\b)"),
    ("of", "have", r"(?:could|should|would|must|might)(?:n['’]t)?|may|you['’]d|i['’]d", r"\b(?!\s+course)"),
    ("affect(s?)", "effect{s}", r"the|an|no|any|little|side|great|big|good|bad|same|opposite|whole|after|lasting|desired|cause\s+and|special|sound|take|takes|took|into|its|positive|negative", r"\b(?!\s+(?:the|a|an|you|your|it|how|me|us|them|every|each|everyone)\b)"),
    ("affects", "effects", "", r"\s+of\b"),
    ("effect(s?)", "affect{s}", "will|may|can|could|would|might|does|did|not|to|doesn['’]t|don['’]t|won['’]t|didn['’]t|it|this|that|which|badly|directly|really|also", rf"\s+(?:{_ARTICLE}|how|every|everyone|everything|all|both|each|me|you|us|them|him|it)\b(?!\s+(?:change|repair|cure|changes|repairs))"),
    ("effected", "affected", "", r"\s+(?:by|the|my|our|your|all|everyone|me|us|him|her|them)\b"),
    ("whose", "who’s", "", r"\s+(?:been|going|coming|there|the|a|an|not|got|already|never|always|ever|afraid|here|next|also)\b"),
    ("who['’]s", "whose", "", rf"\s+(?:{_THINGS}|idea|fault|car|work|job|name|words?|life|book|phone)\b"),
    ("who['’]s", "whose", "", rf"\s+(?!(?:{_ARTICLE}|what|how)\b)[a-z]+\s+(?:is|are|was|were|has|had)\b"),
    ("who['’]s", "whose", "", r"\s+(?:is|are|was)\s+(?:it|this|that|these|those|the)\b"),
    ("principal(s?)", "principle{s}", "in|on|basic|first|guiding|same|general|simple|working|underlying|matter\\s+of|sound", r"\b(?!\s+(?:part|reason|cause|city|teacher|actor|use|thing|ingredient|of\s+the\s+school))"),
    ("principle", "principal", "the|a|our|its|their|his|her|school|my", r"\s+(?:of\s+the\s+school|reason|cause|part|city|actor|teacher|ingredient|use|aim|character|said|told|came)\b"),
    ("accept", "except", r"everything|everyone|all|nothing|nobody|none|anything|anyone|no\s+one|every\s+\w+|days?|always|open|empty|done|ready|works?|same|fine", r"\s+(?:for|the|that|on|in|when|where|one|a|an|my|me|us|him|her|sundays?|mondays?|tuesdays?|wednesdays?|thursdays?|fridays?|saturdays?|this|its)\b"),
    ("accept", "except", r"(?:^|[.!?]\s)", r"\s+for\s+(?:the|a|an|one|two|my|our|your|his|her|its|their|this|that|these|those|some)\b"),
    ("except", "accept", r"will|to|can|cannot|gladly|please|can['’]t|don['’]t|won['’]t|we|i|they|not|happily|must|only|didn['’]t", rf"\s+(?:{_ARTICLE}|any|it|them|new|old|cash|cards?|payments?|donations?|gifts?|apologies|no|all|only|most)\b"),
    ("peace", "piece", "", r"\s+of\s+(?!mind\b)[a-z]+"),
    ("piece", "peace", "", r"\s+(?:and\s+quiet|of\s+mind)\b"),
    ("piece", "peace", "in|make|made|at|world|keep", _STOP),
    ("where", "were", "you|we|they|there", r"\s+(?:not|very|so|too|going|able|broken|made|also|happy|late|told|asked|given|left|sure|ready|many|several|some|few|no|two|three|four|five|six|ten|having|doing|looking|trying)\b"),
    ("where", "were", "[a-z]{2,}s", r"\s+(?:loose|broken|missing|gone|wet|dry|hot|cold|dirty|clean|worn|stuck|tight|old|new|good|bad|fine|burnt|cracked|rusty|open|closed|empty|full|late|early|ready|sold|mended|bent)(?=\s*(?:[.,;!?]|and\b|$))"),
    ("were", "where", "", r"\s+(?:is|are|do|does|did|was|can|could|should|would|will|have|has)\b"),
    ("were", "where", "know|knew|sees?|shows?|showed|find|found\\s+out|remember|ask|asked|wonder|decide|spot|exactly|anywhere|just|tell|told|check|mark|shop|house|corner|point|place|from", r"\s+(?:the|it|you|we|they|he|she|i|to|your|my|our|his|her|its|their)\b"),
    ("were", "we’re", r"(?:^|[.!?]\s)|so|if|when|because|that|and|hope|think|since|as", r"\s+(?:going\s+to|open\s+(?:on|from|every|until|again)|closed\s+(?:on|from|until|for)|glad\s+(?:to|you)|looking\s+for|sorry\s+(?:to|that|for)|planning|hoping\s+to|happy\s+to)\b"),
    ("we['’]re", "were", "they|you|there|lamps|things|people|screws|which|who|wires|both|all", r"\s+(?:not|the|a|all|in|on|very|so|too|made|broken|loose|there|here|two|three|many|some|no|going|able|used|still)\b"),
    ("here", "hear", "can|could|to|not|will|can['’]t|couldn['’]t|don['’]t|didn['’]t|i|you|we|they|never|please|often|even", r"\s+(?:the|a|an|it|them|him|her|any|nothing|something|what|how|no|your|my|our|about|everything|voices|music|noises?)\b"),
    ("hear", "here", "", r"\s+(?:is|are|we\s+are|it\s+is|you\s+(?:are|go)|we\s+go|comes?|was|were)\b"),
    ("hear", "here", "over|come|comes|came|right|around|up|down|in|out|stay|been|from|not|lives?|works?|bring\\s+(?:it|them)|put\\s+(?:it|them)|sit|near", r"(?=[.,;!?]|\s+(?:and|to|in|on|at|every|for|we|you|i)\b)"),
    ("weather", "whether", "", r"\s+or\s+not\b"),
    ("weather", "whether", "know|knows|knew|decide|decided|see|ask|asked|asks|wonder|wondered|check|sure|tell|matter|matters|of|on|question|say|test|unsure|out|doubt|doubted|clear", r"\s+(?:you|to|it|the|we|they|he|she|i|a|an|this|that|your|there|any|my|all|its)\b"),
    ("whether", "weather", "the|bad|good|fine|wet|cold|warm|nice|our|this|hot|dry|winter|summer|stormy|in|rainy", r"(?=\s*[.,;!?]|\s+(?:is|was|forecast|report|station|vane|outside|turned|permitting|changes?|got|and|has|had|here|gets|in)\b)"),
    ("passed", "past", "walk|walked|went|go|goes|going|drive|drove|ran|run|half|ten|quarter|five|twenty|flew|slid|slide|get|got|pushed?|rushed|look|looked|turn|turned|move|moved|far|cycled|rode|screwed", r"\s+(?:the|a|an|it|us|me|him|her|them|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|my|your|our|this|that|midnight|noon|\d+|one)\b"),
    ("passed", "past", "the|this|these", r"\s+(?:few|year|years|week|weeks|month|months|days|decade|century|hour|hours|winter|summer|two|three|four|five)\b"),
    ("passed", "past", "in\\s+the", _STOP),
    ("past", "passed", "has|have|had|he|she|they|we|i|just|time|was|having|who", r"(?=\s+(?:the|by|him|her|me|us|them|away|on|before|since|without|quickly|slowly|through|over|it|a|an|my|our|his)\b|[.,])"),
    ("quiet", "quite", "", r"\s+(?:a|an|often|sure|right|different|easily|simply|likely|possibly|some|quickly|useful|expensive|possible|well|frankly|enough|clearly|another|so)\b"),
    ("quiet", "quite", "not", r"\s+(?:the|as|right|sure|there|done|finished|what|how|enough|ready|like|so|that)\b"),
    ("quite", "quiet", "be|is|was|very|so|too|keep|kept|stay|stayed|peace\\s+and|it['’]s|went|fell|perfectly|nice\\s+and|a|really|more", r"(?=[.,;!?]|\s+(?:in\s+the|at\s+night|room|corner|place|street|evening|hour|afternoon|morning|town|day|spot|village)\b)"),
    ("break(s?)", "brake{s}", "", r"\s+(?:pads?|blocks?|cables?|levers?|shoes?|discs?|fluid|pedal|lights?)\b"),
    ("break(s?)", "brake{s}", "front|rear|hand|disc|rim|coaster|drum|bicycle|bike|emergency|parking|worn", r"\b(?!\s+(?:down|off|away|up|the|into|out|in|when|it|if)\b)"),
    ("brake", "break", r"coffee|tea|lunch|short|summer|winter|quick|long|take\s+a|took\s+a|have\s+a|had\s+a|need\s+a|needed\s+a|give\s+it\s+a", r"\b(?!\s+(?:lever|cable|pad|block|shoe|disc)s?)"),
    ("brake(s?)", "break{s}", "", r"\s+(?:down|apart|easily|into|off)\b"),
    ("advise", "advice", "the|some|any|good|my|your|this|of|bad|best|free|more|his|her|their|our|no|for|useful|sound|that|little", r"\b(?!\s+(?:you|them|us|me|against|readers|people|anyone)\b)"),
    ("advice", "advise", "to|would|i|we|will|strongly|they|should|must|always", r"\s+(?:you|against|everyone|anyone|readers|people|that|them|him|her|using|not|to|buying|waiting|taking)\b"),
    ("breath", "breathe", "to|can|cannot|can['’]t|could|couldn['’]t|must|should|lets?\\s+it|let\\s+the\\s+\\w+|not|don['’]t", r"\b(?!\s+(?:of|test|taking|a)\b)"),
    ("breathe", "breath", "a|deep|my|his|her|your|out\\s+of|one|last|every|bated|short\\s+of|each|under\\s+(?:my|his|her)|first", r"\b(?!\s+(?:in|out)\b)"),
    ("desert(s?)", "dessert{s}", "", r"\s+(?:menu|spoons?|plates?|bowls?|wine|forks?)\b"),
    ("desert", "dessert", "for|chocolate|sweet|favourite|favorite|no|eat|ate|made|after|before", _STOP),
    ("dessert", "desert", "the|in\\s+the|sandy|across\\s+the|a", r"\s+(?:sand|sands|island|sun|heat|storm|winds?|road|town|plants?|climate|sky)\b"),
    ("stationary", "stationery", "", r"\s+(?:shop|cupboard|drawer|set|cabinet|store|paper|box|order)\b"),
    ("stationary", "stationery", "buy|bought|paper|office|school|of|some|pens\\s+and|new", _STOP),
    ("stationery", "stationary", "is|was|are|were|remains?|remained|stays?|stayed|stood|held|perfectly|completely|be|keep\\s+it|a|the", r"(?=\s+(?:car|bike|bicycle|wheel|object|part|point|while|when|and|during|train|engine|for|until)\b|[.,])"),
    ("compliment(s?)", "complement{s}", "", r"\s+(?:each\s+other|one\s+another|(?:the|its|your)\s+(?:colou?rs?|look|design|wood|room|decor|frame|shade|set|walls?))\b"),
    ("complement(s?)", "compliment{s}", "pay|paid|paying|nice|kind|as\\s+a|the\\s+nicest|returned\\s+the|many|fishing\\s+for|lovely|biggest|best", r"\b(?!\s+each)"),
    ("lead", "led", "has|have|had|was|were|been|be", r"\s+(?:to|us|me|him|her|them|by|into|away|through|back|astray)\b"),
    ("sight(s?)", "site{s}", "building|construction|camp|burial|web|work|whole\\s+web", r"\b"),
    ("site", "sight", "at\\s+first|in\\s+plain|out\\s+of|love\\s+at\\s+first|no\\s+end\\s+in", r"\b"),
    ("site", "sight", "lost|lose|losing|catch|caught", r"\s+of\b"),
    ("bare", "bear", "", r"\s+(?:in\s+mind|with\s+(?:me|us)|witness|the\s+(?:weight|cost|load|thought))\b"),
    ("bear", "bare", "the|with|of|his|her|your|my|two|any|touch|no|to|a|its|their|on|down\\s+to", r"\s+(?:hands?|feet|foot|wires?|metal|wood|floors?|walls?|copper|minimum|bones|bulb|conductors?|ends?|plaster|earth)\b"),
    ("by", "buy", "to|can|could|must|should|would|can['’]t|don['’]t|couldn['’]t|cannot", r"\s+(?:a|an|some|new|one|another|more|it|them|two|the\s+(?:parts|right|cheapest|same))\b"),
    ("buy", "by", "made|written|run|held(?:\\s+up)?|mended|repaired|broken|done|stands?|stood|passed|drove|caught|owned|given|built|used|painted|step|one|side|day|piece|bit|surrounded|followed|stop|drop|go|went", r"\s+(?:the|a|an|my|our|his|her|hand|your|one|two|step|side|day|piece|bit|us|me|them|it|hand|heart)\b"),
    ("know", "no", "has|have|had|is|are|there['’]s|there\\s+(?:was|were)|in|by|makes?|made|means?", r"\s+(?!how\b|it\b|of\b|what\b|that\b|where\b|about\b|the\b|why\b|when\b|as\b|to\b|if\b|who\b|whether\b)[a-z]+"),
    ("no", "know", "i|we|you|they|don['’]t|to|do|does|did|doesn['’]t|didn['’]t|not|must|should|let\\s+(?:me|us)", r"\s+(?:how|what|why|where|when|if|that|whether|the|who|which|about|of|it|your|our|my|this)\b"),
    ("new", "knew", "i|we|you|they|he|she|who|never|nobody|everyone|always|hardly", r"\s+(?:how|what|why|where|that|the|it|him|her|about|nothing|which|this|when|if|exactly|at\s+once|my|each\s+other)\b"),
    ("knew", "new", "a|the|brand|some|any|two|this|your|my|our|buy|bought|with|completely|nothing|something|for", r"\s+(?!(?:how|what|why|where|that|the|it|him|her|about|nothing|when|if)\b)[a-z]+"),
    ("right", "write", "to|please|can|must|should|will|don['’]t|i|we|you|and|often", r"\s+(?:down|letters?|it\s+down|them\s+down|a\s+(?:letter|list|note|post|line|book|story)|the\s+(?:names?|date|number|address|label)|to\s+(?:us|me|them|him|her)|about\s+(?:it|them|this|the|what|my))\b"),
    ("write", "right", "the|all|is|quite|your|not|my|just|turn", r"\s+(?:way|side|hand|size|one|place|time|answer|tool|word|thing|angle|end|order|direction|fuse|amount|length|moment|tools?|screw|kind)\b"),
    ("threw", "through", r"(?:pull|pulled|push|pushed|thread|feed|fed|put|poke|poked|run|ran|led)\s+(?:the|a|my|your|each)\s+\w+|go|goes|went|going|pass|passed|runs?|pull|pulled|pushed?|thread|led|look|looked|get|got|walk|walked|cut|drill|drilled|fed|feed|came|comes|way|half|see|saw|halfway|put|straight|read|poke|poked", r"\s+(?:the|a|an|it|them|each|both|that|this|my|your|every|its|one|two|which)\b"),
    ("through", "threw", "he|she|i|we|they|who|and", r"\s+(?:(?:it|them|the\s+\w+|a\s+\w+)\s+(?:away|out|into)|away)\b"),
    ("witch", "which", "", r"\s+(?:is|are|was|were|one|of|way|side|fuse|means|has|i|we|you|they|can|makes|holds)\b"),
    ("waist", "waste", "", r"\s+(?:of|your|time|money|paper|water|energy|bins?|it|any|heat|no)\b"),
    ("waste", "waist", "his|her|my|your|the|around\\s+(?:his|her|my|your|the)", r"(?:\s+(?:belt|band|size|high|line)\b|-(?:high|deep|band))"),
    ("weak(s?)", "week{s}", "last|next|this|every|each|per|once\\s+a|twice\\s+a|two|three|four|five|six|few|several|whole|later\\s+that|all|some", r"(?=[.,;!?]|\s+(?:ago|later|and|we|i|in|before|after|the|on|at|for|when|it|to|as|of|long|end|day|night)\b|$)"),
    ("weak", "week", "a", r"\s+(?:ago|later|before|after|or\s+(?:two|so))\b"),
    ("week", "weak", "too|very|so|rather|a|the|its|quite", r"(?:\s+(?:springs?|battery|batteries|signal|spots?|points?|light|solder|joints?|links?|coffee|tea|glue|current|cells?|to\s+(?:hold|turn|lift|pull))\b|(?<=too week|ery week|ite week)(?=[.,;]))"),
    ("hole", "whole", "the|a|my|this|your|our|that", r"\s+(?:day|week|year|thing|lot|time|story|house|afternoon|evening|family|morning|world|idea|month|bench|lamp|bag|box|city|street|while)\b"),
    ("whole(s?)", "hole{s}", r"drill(?:ed|ing)?|makes?|made|screw|small|round|tiny|pilot|dig|dug|punch|nail|bolt|a|the|another|two|three|four|mounting|worn|burnt|button|key", r"(?=[.,;!?]|\s+(?:in|for|through|at|with|under|above|below|near|beside|of\s+(?:the\s+)?(?:same|right)|where|drilled|is\s+(?:too|round|drilled))\b)"),
    ("allowed", "aloud", r"reads?|said|think|thought|laugh|laughed|speak|spoke|say|reading|out|read\s+(?:it|them|this|the\s+\w+)", r"\b(?!\s+(?:to|in|on|at|us|me|him|her|them|you)\b)"),
    ("aloud", "allowed", "is|are|was|were|not|be|isn['’]t|aren['’]t|no|only", r"\s+(?:to|in|here|on|at|for|inside|under|by)\b"),
    ("chose", "choose", "to|can|must|should|will|please|don['’]t|could|didn['’]t|cannot|may", r"\b"),
    ("chose", "chosen", "have|has|had|been|were", r"\b"),
    ("choose", "chose", "yesterday\\s+(?:i|we|he|she|they)|(?:he|she)", r"\s+(?:the|a|an|this|that|it|to|my|his|her)\b"),
    ("everyday", "every day", "", r"(?=[.;!?]|,(?!\s+\w+\s+(?:things|life|use))|$|\s+(?:i|we|you|they|he|she|it|at|for|in|until|since|from|after|before|when|and\s+every|this|last)\b)"),
    (r"every\s+day", "everyday", "", r"\s+(?:life|use|things|objects|tools|clothes|tasks|items|language|words)\b"),
    (r"may\s+be", "maybe", r"(?:^|[.!?]\s)", r"\s+(?:the|you|we|i|it|they|that|this|he|she|a|an|there|next|one)\b"),
    ("maybe", "may be", "it|there|they|which|he|she|you|fuse|wire|switch|this", r"\s+(?:a|an|too|loose|broken|worn|difficult|possible|hard|easier|better|necessary|safe|worth|used|able|dirty|stuck|burnt|different|more|due)\b"),
    (r"a\s+part", "apart", r"(?:took|take|taken|taking|pull|pulled|tell|told|prise|prised|keep|kept|came|comes?|falls?|fell|falling|fallen)(?:\s+(?:it|them|the\s+\w+))?", r"(?=[.,;!?]|\s+(?:and|before|when|again|at|with|without|carefully)\b)"),
    ("apart", "a part", "", r"\s+of\b"),
    (r"all\s+ready", "already", "", r"\s+(?:been|done|have|had|has|knew|know|said|told|gone|made|seen|out|there|in|mended|broken|on|full|open|sold)\b"),
    ("allot", "a lot", "", r"\b(?=\s+of\b|\s*[.,;!?]|\s+(?:more|less|better|easier))"),
    ("coarse", "course", "of|in\\s+due|main|golf|evening|training|first|race|crash|a\\s+short", r"\b(?!\s+(?:sandpaper|grit|sand|file|salt|thread|grain|cloth))"),
    ("course", "coarse", "", r"\s+(?:sandpaper|grit|sand|file|salt|threads?|grain|cloth|teeth|paper|hair|linen|wire\s+wool)\b"),
    ("steal", "steel", "stainless|mild|made\\s+of|hardened|cold|sheet", r"\b"),
    ("steal", "steel", "", r"\s+(?:wool|wire|brush|ruler|frame|rod|plate|bolts?|screws?|springs?|blade|tube|rule)\b"),
    ("steel", "steal", "to|will|not|could|don['’]t|would|people", r"\s+(?:it|the|from|my|your|anything|things|tools|bikes?)\b"),
    ("soul(s?)", "sole{s}", "shoe|rubber|leather|worn|boot|thin|inner", r"\b"),
    ("heal(s?)", "heel{s}", "", r"\s+of\s+(?:the|a|my|his|her|your|each)\s+(?:shoe|boot|sock|foot|hand|slipper)\b"),
    ("fare(s?)", "fair{s}", "book|school|village|repair|trade|summer|winter|fun|street|county|craft|spring", r"\b"),
    ("fair(s?)", "fare{s}", "bus|train|taxi|tram|ferry|air|single|return", r"\b(?!\s+(?:enough|play|and\s+square))"),
    ("meat", "meet", "to|we|will|let['’]s|you|can|they|shall|i|us", r"\s+(?:at|on|in|every|again|you|us|the|for|once|up|each|them)\b"),
    ("hour", "our", "in|of|for|at|to|on|with|and|by|is|all|use|visit|see|join", r"\s+(?:own|lamps?|neighbours?|workshops?|kitchen|house|tools|readers|bench|shop|hall|group|first|friends|street|town|school|children|blog|next\s+\w+|last\s+\w+|new|old)\b"),
    ("our", "hour", "an|one|half\\s+an|every|per|each|last|first|next|whole|quarter\\s+of\\s+an", r"(?=[.,;!?]|\s+(?:later|ago|and|or|of|before|after|to|for|is|was|in|at|we|i|it|the)\b)"),
    ("wander", "wonder", "i|we|you|no|little|makes?\\s+(?:me|you|us)", r"\s+(?:if|why|how|what|whether|who|where|that)\b"),
    ("wonder", "wander", "to|around|i|we|they|let\\s+(?:them|it)|may|will|could", r"\s+(?:around|through|off|about\\s+the|along|into|from)\b"),
    ("form", "from", "away|far|comes?|came|made|taken|removed?|different|apart|free|get|got|bought|borrowed|letter|email|hear|heard|back|up|it|them|gone|keep|saved?|starting|begin|even|wires?|cable|out", r"\s+(?:the|a|an|my|our|your|his|her|us|them|here|there|this|that|each|one|its|both|now|two)\b"),
    ("form", "from", "", r"\s+(?:time\s+to\s+time|now\s+on|scratch|left\s+to|top\s+to|start\s+to|end\s+to|the\s+(?:start|beginning|top|bottom|left|right|inside|outside|back|front|wall|socket|mains|shelf|box)\b)"),
    ("of", "off", r"(?:turn|turned|switch|switched|take|took|taken|cut|comes?|came|falls?|fell|pull|pulled|peel|peeled|wipe|wiped|slide|slid|shut|get|got|broke|breaks?|knocked?|lift|lifted|set|screw|unscrew|go|goes|went)(?:\s+(?:it|them|the\s+\w+|that))?", r"(?=[.,;!?]|\s+(?:and|at|before|first|when|until|with|again|completely|gently|slowly|carefully|if|after|by)\b)"),
    ("off", "of", "kind|sort|lots?|most|many|couple|number|instead|because|each|both|out|full|front|top|rest|amount|inside", r"\s+(?:the|a|an|my|it|them|us|our|these|those|your|its|their|this|that|wire|dust|people|water)\b"),
    ("an", "and", "", r"\s+(?:the|then|we|you|it|i|they|he|she|so|also|not|that|this)\b"),
    ("the", "they", "", r"\s+(?:are|were|have|had|would|should|don['’]t|didn['’]t|aren['’]t|weren['’]t|went|came|say|said)\b"),
    ("you", "your", "", r"\s+(?:lamp|hands|tools|radio|kettle|fingers|toaster|neighbours?|kitchen|bench)\b"),
    ("pour(s?)", "pore{s}", "", r"\s+over\s+(?:the|a|an|his|her|my|your|our|old)\s+(?:books?|manuals?|maps?|letters?|pages?|plans?|diagrams?)\b"),
    ("boarder", "border", "the|a|on\\s+the|across\\s+the|at\\s+the|garden|wide|flower", r"(?=[.,;]|\s+(?:of|between|with|around|control|town)\b)"),
    ("tail", "tale", "fairy|tell\\s+(?:a|the)|told\\s+(?:a|the)|tall|cautionary|old\\s+wives['’]", r"\b"),
    ("dual", "duel", "fight\\s+a|fought\\s+a|a\\s+sword", r"\b"),
    ("then", "than", "other|rather|no\\s+sooner|different|else", rf"\s+(?:{_COMPARED}|to|in|on|at|with|buying|using|throwing|waiting)\b"),
)
# fmt: on
"""(word, what is meant, what stands before it, what comes after). `{s}` carries a plural over."""


class _Rule:
    """One row of the table, ready to be looked for."""

    def __init__(self, wrong: str, better: str, before: str, after: str) -> None:
        self.better = better
        words = before.removeprefix(_BEGINNING).removeprefix("|")
        after_words = rf"(?<![\w’'-])(?:{words})\s+" if words else ""
        lead = after_words if words == before else rf"(?:{_BEGINNING}\s*{'|' if words else ''}{after_words})"
        self._source = rf"{lead}(?<![\w’'-])(?P<wrong>{wrong})(?![\w’'-]){after}"

    @cached_property
    def pattern(self) -> re.Pattern[str]:
        """Compiled when its word first occurs: the whole table takes a quarter of a second."""
        return re.compile(self._source, re.IGNORECASE)


_FIRST = re.compile(r"[a-z]+")


@cache
def _by_word() -> dict[str, list[_Rule]]:
    """The rules by the stem of the word they look for."""
    found: dict[str, list[_Rule]] = {}
    for wrong, better, before, after in TABLE:
        stem = existing(_FIRST.match(wrong))[0]
        for form in {stem, stem + "s"} if wrong.endswith("(s?)") else {stem}:
            found.setdefault(form, []).append(_Rule(wrong, better, before, after))
    return found


def check(passage: Passage, material: Material) -> Iterator[Mark]:
    if not passage.language.startswith("en"):
        return
    stems = {
        existing(_FIRST.match(match[0].lower().replace("’", "'")))[0]
        for match in WORD.finditer(passage.text)
        if match[0][0].isascii()
    }
    found: dict[tuple[int, int], Mark] = {}
    for rule in dict.fromkeys(rule for stem in stems for rule in _by_word().get(stem, ())):
        for match in rule.pattern.finditer(passage.text):
            start, end = match.span("wrong")
            if passage.is_plain(start, end) and not any(
                first < end and start < last for first, last in found
            ):
                found[start, end] = _mark(passage, match, rule.better)
    yield from found.values()


def _mark(passage: Passage, match: re.Match[str], better: str) -> Mark:
    start, end = match.span("wrong")
    word = match["wrong"]
    put = better.replace("{s}", "s" if word.lower().endswith("s") else "")
    put = put[0].upper() + put[1:] if word[0].isupper() else put
    return Mark(
        "confused-pairs",
        f"“{word}” is likely meant as “{put}” here.",
        match[0].strip(" .!?"),
        passage.path,
        start,
        end,
        mends=(replaced(passage.path, start, end, put),),
    )


CHECKS = (OfPassage(check),)
WHY = {
    "confused-pairs": Why(
        "Confused words",
        "Some words sound alike, and no dictionary tells them apart. The proof only speaks where the words around leave one meaning.",
        "it’s raining, and its roof leaks",
    )
}
