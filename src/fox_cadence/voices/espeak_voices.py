"""The voices we made of espeak-ng, as tables: what people choose by, and what the engine is told.

The engine calls nearly all of its own voices male and ageless, so contrast comes from variants, pitch and
range (measured, docs/benchmarks.md).
"""

from typing import Literal, TypeAlias

Gender: TypeAlias = Literal["woman", "man"]
Age: TypeAlias = Literal["young", "grown", "old"]

Kind: TypeAlias = tuple[Gender, Age, str, str, int, int]
"""Gender, age, character, variant, pitch and liveliness (0 to 99)."""

CLEAR: Kind = ("woman", "grown", "clear and even", "f3", 46, 52)
FIRM: Kind = ("man", "grown", "plain and firm", "m3", 42, 46)
LIGHT: Kind = ("woman", "young", "light, quick to rise", "f2", 60, 66)
LOW: Kind = ("man", "old", "low and unhurried", "m7", 30, 38)

Row: TypeAlias = tuple[str, str, str, tuple[str, ...]]
"""Language tag, region, the engine's own identifier, names: of the kinds clear, firm, light and low, in this
order."""

KINDS: tuple[Kind, ...] = (CLEAR, FIRM, LIGHT, LOW)

ROWS: tuple[Row, ...] = (
    ("cmn", "China", "sit/cmn", ("Meilin", "Bowen", "Xiaoyu", "Guoliang")),
    ("hi", "India", "inc/hi", ("Asha", "Rohan", "Tara", "Devendra")),
    ("ar", "Arabic, standard", "sem/ar", ("Salma", "Karim", "Noor", "Yusuf")),
    ("bn", "Bengal", "inc/bn", ("Mitali", "Arif", "Jui", "Haripada")),
    ("pt-PT", "Portugal", "roa/pt", ("Leonor", "Duarte")),
    ("pt-BR", "Brazil", "roa/pt-BR", ("Jandira", "Caetano", "Luma", "Osvaldo")),
    ("ru", "Russia", "zle/ru", ("Vera", "Gleb", "Polina", "Yefim")),
    ("ur", "Pakistan", "inc/ur", ("Sadia", "Bilal", "Hina", "Rashid")),
    ("it-IT", "Italy", "roa/it", ("Ilaria", "Nico")),
    ("nl-NL", "Netherlands", "gmw/nl", ("Maartje", "Joris")),
    ("sv-SE", "Sweden", "gmq/sv", ("Linnea", "Torsten")),
    ("nb-NO", "Norway", "gmq/nb", ("Ragnhild", "Eirik")),
    ("da-DK", "Denmark", "gmq/da", ("Signe", "Aksel")),
    ("fi-FI", "Finland", "urj/fi", ("Aino", "Väinö")),
    ("et-EE", "Estonia", "urj/et", ("Liis", "Tarmo")),
    ("lv-LV", "Latvia", "bat/lv", ("Dzintra", "Valdis")),
    ("lt-LT", "Lithuania", "bat/lt", ("Rasa", "Vytas")),
    ("pl-PL", "Poland", "zlw/pl", ("Hanka", "Zygmunt")),
    ("cs-CZ", "Czechia", "zlw/cs", ("Bohdana", "Radim")),
    ("sk-SK", "Slovakia", "zlw/sk", ("Zora", "Matej")),
    ("hu-HU", "Hungary", "urj/hu", ("Piroska", "Bence")),
    ("ro-RO", "Romania", "roa/ro", ("Ileana", "Radu")),
    ("bg-BG", "Bulgaria", "zls/bg", ("Desislava", "Stoyan")),
    ("hr-HR", "Croatia", "zls/hr", ("Nevenka", "Tin")),
    ("el-GR", "Greece", "grk/el", ("Kalliope", "Stratos")),
    ("tr-TR", "Türkiye", "trk/tr", ("Defne", "Orhan")),
    ("uk-UA", "Ukraine", "zle/uk", ("Oksana", "Taras")),
    ("ca-ES", "Catalonia", "roa/ca", ("Montserrat", "Pau")),
    ("fa", "Iran", "ira/fa", ("Shirin", "Kaveh")),
    ("ta", "Tamil Nadu", "dra/ta", ("Kayal", "Murugan")),
    ("sw", "East Africa", "bnt/sw", ("Zawadi", "Juma")),
    ("id", "Indonesia", "poz/id", ("Sekar", "Bayu")),
    ("vi", "Vietnam, north", "aav/vi", ("Thuy", "Khang")),
    ("ko", "Korea", "ko", ("Haneul", "Dohyun")),
)

SAMPLE_TEXTS = {
    "en": "The tide turns twice a day, and never once for show.",
    "es": "La marea cambia dos veces al día, y nunca por lucirse.",
    "fr": "La marée tourne deux fois par jour, jamais pour la galerie.",
    "de": "Die Flut kehrt zweimal am Tag, und niemals nur zum Schein.",
    "cmn": "大海每天来去两次，从不为了炫耀。",
    "ja": "潮は一日に二度満ち引きする。見せるためではなく。",
    "hi": "समुद्र दिन में दो बार आता और जाता है, दिखावे के लिए कभी नहीं।",
    "ar": "يأتي البحر ويذهب مرتين كل يوم، ولا يفعل ذلك للتباهي.",
    "bn": "সমুদ্র দিনে দুবার আসে আর যায়, কখনও দেখানোর জন্য নয়।",
    "pt": "A maré vira duas vezes por dia, e nunca para se mostrar.",
    "ru": "Море приходит и уходит дважды в день, и никогда напоказ.",
    "ur": "سمندر دن میں دو بار آتا جاتا ہے، دکھاوے کے لیے کبھی نہیں۔",
    "it": "La marea gira due volte al giorno, e mai per farsi vedere.",
    "nl": "Het tij keert tweemaal per dag, en nooit voor de schijn.",
    "sv": "Tidvattnet vänder två gånger om dagen, aldrig för syns skull.",
    "nb": "Tidevannet snur to ganger om dagen, aldri for syns skyld.",
    "da": "Tidevandet vender to gange om dagen, aldrig for et syns skyld.",
    "fi": "Vuorovesi kääntyy kahdesti päivässä, eikä koskaan näytteeksi.",
    "et": "Meri tuleb ja läheb kaks korda päevas, mitte kunagi moe pärast.",
    "lv": "Jūra nāk un iet divreiz dienā, un nekad izrādes dēļ.",
    "lt": "Jūra ateina ir išeina du kartus per dieną, niekada dėl vaizdo.",
    "pl": "Morze przychodzi i odchodzi dwa razy dziennie, nigdy na pokaz.",
    "cs": "Moře přichází a odchází dvakrát denně, nikdy pro parádu.",
    "sk": "More prichádza a odchádza dvakrát denne, nikdy pre parádu.",
    "hu": "A tenger naponta kétszer jön és megy, sosem a látszat kedvéért.",
    "ro": "Marea vine și pleacă de două ori pe zi, niciodată de formă.",
    "bg": "Морето идва и си отива два пъти на ден, никога за показ.",
    "hr": "More dolazi i odlazi dvaput na dan, nikad radi pokazivanja.",
    "el": "Η θάλασσα έρχεται και φεύγει δύο φορές τη μέρα, ποτέ για επίδειξη.",
    "tr": "Deniz günde iki kez gelir ve gider, hiçbir zaman gösteriş için değil.",
    "uk": "Море приходить і відходить двічі на день, і ніколи напоказ.",
    "ca": "La marea canvia dues vegades al dia, i mai per fer-se veure.",
    "fa": "دریا روزی دو بار می‌آید و می‌رود، هرگز برای خودنمایی.",
    "ta": "கடல் நாளுக்கு இருமுறை வந்து போகிறது, காட்டுவதற்காக அல்ல.",
    "sw": "Bahari huja na kuondoka mara mbili kwa siku, kamwe si kwa maonyesho.",
    "id": "Laut pasang dan surut dua kali sehari, tak pernah untuk pamer.",
    "vi": "Biển lên xuống mỗi ngày hai lần, chẳng bao giờ để khoe.",
    "ko": "바다는 하루에 두 번 왔다가 갑니다. 보여 주려는 것은 아닙니다.",
}
"""The same thought of ours in each language, for hearing a voice."""
