"""Lines to measure with, all our own: sentences built from word lists to learn from, written ones to be
tested on."""

import random
from collections.abc import Iterator

_WORDS = {
    "en": {
        "the": ["the", "a", "this", "every", "our", "one", "that", "each"],
        "adj": "cold quiet narrow enormous yellow ancient careful broken hollow salty sudden golden gentle crooked "
        "patient silver restless shallow thirsty weathered".split(),
        "noun": "harbour lantern ferry keeper window morning gull engine island rope bottle measure journey orchard "
        "village bridge pebble shadow whistle compass thunder jacket chimney otter barrel question visitor "
        "fisherman stairway teacup".split(),
        "verb": "follows opens carries forgets measures crosses watches answers repairs borrows mentions covers "
        "gathers remembers chooses pushes reaches avoids teaches wakes".split(),
        "prep": "under behind beside above without through near beyond around towards".split(),
        "join": ["and", "but", "because", "while", "so", "although", "until"],
        "adv": "slowly twice again carefully always seldom yesterday nearby gladly early".split(),
        "number": "two five eleven twenty-three forty 7 12 90".split(),
    },
    "es": {
        "the": ["el", "un", "este", "cada", "nuestro", "aquel"],
        "adj": "frío tranquilo estrecho enorme amarillo antiguo roto hueco salado dorado amable torcido paciente "
        "inquieto profundo sediento gastado lejano".split(),
        "noun": "puerto farol barco guardián viento motor camino pueblo puente guijarro reloj trueno abrigo barril "
        "visitante pescador jardín silencio cuaderno sendero zapato vecino".split(),
        "verb": "sigue abre lleva olvida mide cruza mira responde arregla pide nombra cubre recoge recuerda elige "
        "empuja alcanza evita enseña despierta".split(),
        "prep": "bajo tras junto sobre sin por cerca entre hacia desde".split(),
        "join": ["y", "pero", "porque", "mientras", "así que", "aunque", "hasta que"],
        "adv": "despacio ayer siempre nunca temprano lejos juntos afuera casi".split(),
        "number": "dos cinco once veintitrés cuarenta 7 12 90".split(),
    },
    "fr": {
        "the": ["le", "un", "ce", "chaque", "notre", "mon"],
        "adj": "froid tranquille étroit énorme jaune ancien cassé creux salé doré gentil tordu patient inquiet profond "
        "lointain fragile mouillé".split(),
        "noun": "port phare bateau gardien vent moteur chemin village pont galet silence tonnerre manteau tonneau "
        "visiteur pêcheur jardin cahier sentier voisin bouchon nuage".split(),
        "verb": "suit ouvre porte oublie mesure traverse regarde répond répare demande nomme couvre ramasse rappelle "
        "choisit pousse atteint évite enseigne réveille".split(),
        "prep": "sous derrière contre sur sans par devant entre vers depuis".split(),
        "join": ["et", "mais", "parce que", "pendant que", "donc", "quand"],
        "adv": "lentement hier toujours jamais ensemble dehors presque tôt encore".split(),
        "number": "deux cinq onze vingt-trois quarante 7 12 90".split(),
    },
    "de": {
        "the": ["der", "ein", "dieser", "jeder", "unser", "mein"],
        "adj": "kalte ruhige schmale riesige gelbe alte zerbrochene hohle salzige goldene sanfte schiefe geduldige "
        "rastlose flache durstige verwitterte ferne".split(),
        "noun": "Hafen Leuchtturm Wächter Wind Motor Weg Garten Stein Schatten Donner Mantel Kamin Otter Eimer "
        "Besucher Fischer Sturm Nachbar Schlüssel Morgen Brunnen Zaun".split(),
        "verb": "folgt öffnet trägt vergisst misst überquert beobachtet antwortet repariert borgt nennt deckt sammelt "
        "erinnert wählt schiebt erreicht meidet lehrt weckt".split(),
        "prep": "unter hinter neben über ohne durch nahe jenseits um gegen".split(),
        "join": ["und", "aber", "weil", "während", "also", "obwohl", "bis"],
        "adv": "langsam gestern immer selten früh draußen zusammen beinahe wieder".split(),
        "number": "zwei fünf elf dreiundzwanzig vierzig 7 12 90".split(),
    },
}


def built(language: str, count: int, seed: int = 1) -> list[str]:
    """Sentences made of the word lists: nonsense, but with every sound and every punctuation."""
    chance = random.Random(f"{language}-{seed}")
    return [_sentence(_WORDS[language], chance) for _ in range(count)]


def _sentence(words: dict[str, list[str]], chance: random.Random) -> str:
    def noun() -> str:
        parts = [chance.choice(words["the"]), chance.choice(words["noun"])]
        if chance.random() < 0.5:
            parts.insert(1, chance.choice(words["adj"]))
        if chance.random() < 0.12:
            parts[0] = chance.choice(words["number"])
        return " ".join(parts)

    def clause() -> Iterator[str]:
        yield noun()
        if chance.random() < 0.85:
            yield chance.choice(words["verb"])
            yield noun()
        if chance.random() < 0.4:
            yield f"{chance.choice(words['prep'])} {noun()}"
        if chance.random() < 0.3:
            yield chance.choice(words["adv"])

    text = " ".join(clause())
    for _ in range(chance.choice([0, 0, 1, 1, 2])):
        sign = chance.choice([",", ",", ",", ".", ";", ":", "?", ""])
        following = " ".join(clause())
        if sign in ".?" and sign:
            text += f"{sign} {following[:1].upper()}{following[1:]}"
        else:
            text += f"{sign} {chance.choice(words['join'])} {following}"
    return f"{text[:1].upper()}{text[1:]}{chance.choice(['.', '.', '.', '!', '?', ''])}"


WRITTEN = {
    "en": [
        "The last ferry leaves before the fog does.", "Nobody waves, because nobody came.",
        "She counts the steps twice, then once more for luck.", "How far is it to the lighthouse?",
        "Bread, salt, rope, and a good pair of boots.", "It was the kind of morning that keeps its coat on.",
        "We packed the lamp in straw. It still broke.", "Look closer: the stone is breathing.",
        "There are seven gulls on the roof, and one of them is lying.", "Ask the keeper; he has heard worse.",
        "Every wave brings the same news.", "The bell rings at six, whether or not anybody is listening.",
        "His grandfather built this wall without a single straight line.", "Turn left at the boat that never floats.",
        "Half of the village sleeps. The other half fishes.", "Wait.", "You can hear the ice thinking.",
        "If the wind drops, we go; if it doesn't, we tell stories.", "The map was drawn by somebody in a hurry.",
        "Twenty-four jars of plum jam stand on the highest shelf.", "What the sea takes, it seldom returns in order.",
        "A door, a chair, a kettle, and that was the whole hotel.", "Careful, the paint is older than you are.",
        "Before the road came, everything arrived by water.", "He whistles when he is lost, so he whistles a lot.",
        "Our cat has opinions about the tide.", "The engine coughed, apologised, and started.",
        "Nothing here is for sale, except the view.", "I kept the ticket. I don't know why.",
        "By noon the shadows had all gone indoors.", "Some knots are only good for one storm.",
        "Tell me again about the winter when the harbour froze.", "The smallest boat has the longest name.",
        "We measured the room in handkerchiefs.", "Rain on the roof, soup on the stove, cards on the table.",
        "That was not thunder, that was the neighbour's piano.", "Please close the gate, the geese can read.",
        "They painted the pier blue, and the sky took it personally.", "One more hill and we can see home.",
        "The road ends here, but the story doesn't.",
    ],
    "es": [
        "El último barco sale antes que la niebla.", "Nadie saluda, porque nadie ha venido.",
        "Cuenta los escalones dos veces, y otra más por suerte.", "¿Cuánto falta para llegar al faro?",
        "Pan, sal, cuerda y un buen par de botas.", "Guardamos la lámpara entre paja. Aun así, se rompió.",
        "Mira bien: la piedra respira.", "Hay siete gaviotas en el tejado, y una de ellas miente.",
        "Pregunta al guardián; ha oído cosas peores.", "Cada ola trae la misma noticia.",
        "La campana suena a las seis, escuche alguien o no.", "Gira a la izquierda en el barco que nunca flota.",
        "Medio pueblo duerme. El otro medio pesca.", "Espera.",
        "Si el viento cae, nos vamos; si no, contamos historias.",
        "El mapa lo dibujó alguien con prisa.", "Veinticuatro tarros de mermelada esperan en el estante más alto.",
        "Lo que el mar se lleva, rara vez lo devuelve en orden.", "Cuidado, la pintura es más vieja que tú.",
        "Antes del camino, todo llegaba por el agua.", "Silba cuando se pierde, así que silba mucho.",
        "Nuestro gato tiene opiniones sobre la marea.", "El motor tosió, pidió perdón y arrancó.",
        "Guardé el billete. No sé por qué.", "A mediodía las sombras ya habían entrado en casa.",
        "Algunos nudos sirven para una sola tormenta.", "Cuéntame otra vez el invierno en que se heló el puerto.",
        "El barco más pequeño tiene el nombre más largo.", "Una colina más, y veremos la casa.",
        "El camino termina aquí, pero la historia no.",
    ],
}  # fmt: skip

NARRATED = (
    "Low water. The pools are open.", "Most of this shore is only ours for two hours a day.",
    "Stay.", "Look again.", "This is where the story turns.", "It started with a loose board and a bad idea.",
    "Flour, water, salt, and time.", "Red, then orange, then nothing at all.", "You won't find it on any chart.",
    "First we clean the wheel; then we oil the chain.", "Nobody told the ducks about the new timetable.",
    "There used to be a cinema here, a bakery, a bank, and three shoe shops.", "Why would anyone live up there?",
    "Because of the light, she says, and because nobody asks.",
    "In the spring of that year, the river changed its mind.",
    "The recipe is older than the kitchen, the kitchen is older than the house.", "He sold the boat. He kept the oars.",
    "Every second stone has a name.", "If you are quiet, and lucky, and it is a Tuesday, you may see one.",
    "The train was late, the coffee was cold, and we were happy.", "Let's begin at the end.",
    "What looks like moss is really a colony of small animals.", "It took four people eleven days.",
    "Here is the trick: do less.", "A good hinge makes no sound.", "We didn't plan for snow; snow had planned for us.",
    "Some of them walked, some of them rode, and my aunt took a balloon.", "And then the lights came back on.",
    "Twenty minutes later the whole square smelled of oranges.", "It isn't big, but it is ours.",
    "She fixed clocks for a living, and for a while she fixed ours.", "No two of these cups are the same height.",
    "Down the stairs, past the bins, through the blue door.", "The sea does the rest.",
    "Until last week, I thought so too.", "Hold it by the edges, like a photograph.",
    "Three things go wrong: the glue, the weather, and me.", "That's all there is to it.",
    "People ask how long it lasts. It lasts.", "On a clear day you can see what you came from.",
)  # fmt: skip
"""Lines as a narrator says them. Natural voices say built ones, which mean nothing, more slowly."""
