//! A kitchen as an earlier version left it: the made-up one of the demo, dumped with schema 4 and the plans of that day.
//! This and every later schema must open it, go on with it and judge it.

use super::*;

/// One statement a line.
const KITCHEN: &str = include_str!("../fixtures/kitchen_of_schema_4.sql");

/// A database filled as it was then, not migrated yet.
pub async fn as_it_was() -> (Store, HouseholdId) {
    let url = empty_database().await;
    let database = Database::connect(&url).await.unwrap();
    let one = sea_orm::TransactionTrait::begin(&database).await.unwrap();
    one.execute_unprepared("SET FOREIGN_KEY_CHECKS = 0").await.unwrap();
    for statement in KITCHEN.lines() {
        one.execute_unprepared(statement).await.unwrap();
    }
    one.execute_unprepared("SET FOREIGN_KEY_CHECKS = 1").await.unwrap();
    one.commit().await.unwrap();
    let store = Store::connect(&url).await.unwrap();
    store.migrate().await.unwrap();
    let home = store.cook_by_address("crew@boathouse.example").await.unwrap().unwrap().household;
    (store, home)
}

#[tokio::test]
async fn every_row_is_there_and_its_pieces_go_on_and_are_judged() {
    let (store, home) = as_it_was().await;
    let kitchen = store.kitchen(home);
    let cellar = kitchen.in_the_cellar().await.unwrap();
    let eaten = kitchen.book(100, None, "").await.unwrap();
    // As they were kept then: six on their way, four eaten.
    assert_eq!((cellar.len(), eaten.len()), (6, 4));
    let belly = cellar.iter().find(|p| p.name == "Pork belly 2.4 kg").unwrap();
    assert_eq!((belly.rest.weigh_ins.len(), belly.rest.touches.len(), belly.rest.changes.len()), (3, 1, 1));
    let ducks = cellar.iter().find(|p| p.name.starts_with("Whole duck 2")).unwrap();
    assert_eq!(ducks.by_eye.from_tub(), Some(32.0));
    let steaks = cellar.iter().find(|p| p.name.starts_with("Beef rib steak 4")).unwrap();
    assert_eq!(steaks.bowls.iter().filter_map(|b| b.weighed_g).collect::<Vec<_>>(), [4.3]);
    assert_eq!((kitchen.trays().await.unwrap().len(), kitchen.tools().await.unwrap().len()), (1, 1));
    assert_eq!((kitchen.salts().await.unwrap().len(), kitchen.mixes().await.unwrap().len()), (1, 2));
    assert_eq!(kitchen.refrigerator().await.unwrap().air_c, 3.5);
    assert_eq!(kitchen.judged_doses(60).await.unwrap().len(), 4);
    // It goes on to the table, and is judged.
    for step in belly.steps.iter().filter(|s| s.done_at.is_none()) {
        kitchen.tick(belly.id, step.id, now()).await.unwrap();
    }
    assert_eq!(kitchen.give_verdict(belly.id, verdict(0, 1)).await.unwrap(), VerdictSaved::Saved);
    let judged = kitchen.piece(belly.id).await.unwrap();
    assert!(judged.finished_at.is_some() && judged.verdict.unwrap().rim == 1);
    assert_eq!((judged.plan, judged.request), (belly.plan.clone(), belly.request.clone()), "kept verbatim");
}
