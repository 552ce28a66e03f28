//! What cooks put on meat besides salt, by kind: how salty it is, what a spoon of it weighs.
//!
//! Salt is sodium × 2.5421 of USDA SR Legacy, from memory; what grows, what is pressed or distilled from it, sugar, oil and bread are
//! counted as unsalted: they hold less than 0.1 to 1 g in 100 g, far below what a scale sees in a rub. Spoons are SR portion weights
//! from memory, or our estimate.

/// One kind of thing.
#[derive(Debug, PartialEq)]
pub(super) struct Thing {
    /// Words it is known by, each in the singular, parted by commas.
    pub words: &'static str,
    /// Grams of salt in 100 g.
    pub salt_g_per_100g: f64,
    /// Grams a level US tablespoon; `None` where nobody spoons it.
    pub g_per_tbsp: Option<f64>,
    /// Where the figures come from.
    pub source: &'static str,
}

const SR: &str = "USDA SR Legacy, sodium × 2.5421, from memory";
const NONE: &str = "holds no salt to speak of (USDA SR Legacy, by kind)";

const fn salty(words: &'static str, salt_g_per_100g: f64, g_per_tbsp: f64) -> Thing {
    Thing { words, salt_g_per_100g, g_per_tbsp: Some(g_per_tbsp), source: SR }
}

const fn plain(words: &'static str, g_per_tbsp: f64) -> Thing {
    Thing { words, salt_g_per_100g: 0.0, g_per_tbsp: Some(g_per_tbsp), source: NONE }
}

/// Salty things that the ledger's own table has no row for.
pub(super) const SALTY: &[Thing] = &[
    salty("miso,miso paste", 9.48, 17.0),
    salty("tamari", 14.2, 18.0),
    salty("teriyaki,teriyaki sauce", 9.74, 18.0),
    salty("worcester sauce,worcestershire sauce", 2.49, 17.0),
    salty("hot sauce,pepper sauce", 6.72, 14.0),
    salty("sriracha,chilli sauce,chili sauce", 5.4, 17.0),
    salty("caper", 5.97, 8.6),
    salty("anchovy,anchovy paste", 9.32, 15.0),
    salty("green olive", 3.96, 9.0),
    salty("olive,black olive,olive paste,tapenade", 1.87, 9.0),
    salty("parmesan,hard cheese,grated cheese", 4.07, 5.0),
    salty("feta", 2.84, 9.4),
    salty("mayonnaise", 1.61, 13.8),
    salty("salted butter", 1.63, 14.2),
    salty("buttermilk", 0.27, 15.3),
    salty("horseradish,prepared horseradish", 0.8, 15.0),
    salty("pickle,gherkin,pickle juice,pickle brine", 3.05, 15.0),
    salty("sauerkraut", 1.68, 9.0),
    salty("celery salt,garlic salt,onion salt,herb salt", 75.0, 15.0),
    salty("seasoned salt,seasoning salt", 65.0, 15.0),
];

/// Unsalty things, longer names before the kinds they belong to only for the eye: the longest that fits is taken.
pub(super) const UNSALTY: &[Thing] = &[
    // Sugars.
    plain("sugar,white sugar,caster sugar,cane sugar,icing sugar", 12.6),
    plain("brown sugar,palm sugar,muscovado", 13.8),
    plain("honey", 21.0),
    plain("syrup,maple syrup,golden syrup,molasses,treacle,agave", 20.0),
    plain("jam,marmalade,jelly,apple sauce", 20.0),
    // Poured.
    plain("oil,olive oil,sesame oil,soybean oil,peanut oil,rapeseed oil,sunflower oil,chilli oil", 13.5),
    plain("vinegar,wine vinegar,rice vinegar,cider vinegar,balsamic", 14.9),
    plain("juice,lemon juice,lime juice,orange juice,apple juice,pineapple juice,pomegranate juice,tomato juice", 15.3),
    plain("wine,red wine,white wine,rice wine,sherry,port,madeira,marsala,vermouth,sake,mirin", 14.7),
    plain("beer,ale,stout,lager,cider", 14.9),
    plain(
        "bourbon,whisky,whiskey,brandy,cognac,rum,gin,vodka,tequila,mezcal,schnapps,schnaps,grappa,calvados,ouzo,pastis,absinthe,spirit,liqueur",
        14.0,
    ),
    plain("water,soda water,sparkling water,cola,coffee,espresso,tea,rose water,ice", 14.8),
    plain("milk,cream,sour cream,coconut milk,creme fraiche", 15.3),
    plain("yoghurt,yogurt,quark,curd", 15.3),
    plain("butter,unsalted butter,ghee,lard,dripping,tallow,goose fat,duck fat,fat", 14.2),
    // Ground and whole spice.
    plain("paprika,smoked paprika,sweet paprika,pimenton", 6.8),
    plain("pepper,black pepper,white pepper,green pepper,pink pepper,peppercorn,sichuan pepper,lemon pepper", 6.9),
    plain("cayenne,chilli flake,chili flake,chilli powder,chili powder,ancho,chipotle powder,red pepper flake", 5.3),
    plain("garlic powder,garlic granule,granulated garlic", 9.7),
    plain("onion powder,onion granule,granulated onion", 6.9),
    plain("mustard powder,dry mustard,ground mustard,mustard seed", 6.3),
    plain("celery seed,dill seed,poppy seed", 6.5),
    plain("sesame,sesame seed", 9.0),
    plain("cumin,coriander seed,coriander,caraway,fennel seed,fenugreek,aniseed,anise,star anise", 6.0),
    plain("cinnamon,nutmeg,mace,clove,ground clove,allspice,cardamom,juniper,juniper berry", 6.5),
    plain("turmeric,ginger powder,ground ginger,five spice,curry powder,garam masala,sumac,saffron,vanilla", 6.5),
    plain("cocoa,cocoa powder,ground coffee", 5.4),
    // Herbs, fresh or dried.
    plain(
        "herb,thyme,oregano,marjoram,rosemary,sage,savory,tarragon,basil,parsley,dill,mint,chive,chervil,lovage,cilantro,bay,bay leaf,fennel,lavender,lemongrass,curry leaf,mixed herb,herbs de provence",
        3.0,
    ),
    // What grows.
    plain("garlic,black garlic", 8.5),
    plain("ginger,galangal", 6.0),
    plain("onion,red onion,spring onion,shallot,leek,scallion", 10.0),
    plain("chilli,chili,chile,jalapeno,habanero,bell pepper,red pepper,capsicum", 8.0),
    plain("carrot,celery,celeriac,parsnip,turnip,potato,cabbage,mushroom,pumpkin,beetroot,radish,cucumber,aubergine,courgette", 9.0),
    plain("tomato,cherry tomato,tomato paste,tomato puree,passata,tinned tomato", 15.0),
    plain(
        "lemon,lime,orange,grapefruit,zest,lemon zest,orange zest,apple,pear,plum,prune,apricot,fig,date,raisin,cranberry,cherry,pineapple,mango,papaya,quince,berry,peach,kiwi,pomegranate,tamarind",
        12.0,
    ),
    plain("nut,almond,walnut,hazelnut,peanut,pistachio,pine nut,chestnut", 8.5),
    plain("bread,breadcrumb,bread crumb,crumb,toast,roll,panko", 6.8),
    plain("flour,cornflour,cornstarch,starch,polenta,rice,rice flour,oat,bran", 7.8),
    plain("egg,egg white,egg yolk", 16.0),
    plain("gelatine,agar,lecithin,ascorbic acid,citric acid,activated charcoal", 9.0),
];
